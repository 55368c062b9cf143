import { shareSentence } from "@/core/estate/shareWords";
import type { Estate } from "@/core/estate/estate";
import { answersFor, type PublicShare } from "@/core/register/publicList";
import type { Seconds } from "@/core/time/instant";
import type { Book } from "./book";

/** What anyone can use who holds the address. */
const PUBLIC = "reach:open,intake state:live";
const BY_ITEM = [{ by: "item" as const, reversed: false }];

/** Everything that is open to anyone, or takes files from anyone, and who answers for it. */
export async function publicList(estate: Estate, book: Book, t: Seconds): Promise<PublicShare[]> {
  const rows = await book.some({ query: PUBLIC, order: BY_ITEM, count: Infinity }, t);
  return rows.map((row) => {
    const share = estate.share(row.id)!;
    return { row, sentence: shareSentence(estate, share), answers: answersFor(estate, share) };
  });
}
