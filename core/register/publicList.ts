import { answererOf } from "../access/answerer";
import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";
import { csvLines } from "../text/csv";
import { dayWords } from "../text/words";
import { NEVER, seconds } from "../time/instant";
import { safeCell } from "./cells";
import type { RegisterRow } from "./columns";
import type { Note, WaiverView } from "./remarks";

/** A share that anyone who holds its address can use. */
export interface PublicShare {
  row: RegisterRow;
  /** How it is shared, in a sentence. */
  sentence: string;
  /** Who answers for it, and in which capacity. */
  answers: { name: string; as: "owner" | "maker" } | null;
}

export function answersFor(estate: Estate, share: Share): PublicShare["answers"] {
  const answerer = answererOf(estate, share);
  return answerer && { name: estate.people[answerer.person].name, as: answerer.as };
}

/** A reason why something may be open to anyone, and until when that was agreed to; null where it has no end. */
export interface WhyOpen {
  words: string;
  waivedUntil: string | null;
}

/** Known reasons why a share is open: its label is public, a waiver allows it, or somebody wrote one. Empty where there are none. */
export function whyOpen({ id, label }: RegisterRow, waivers: readonly WaiverView[], notes: readonly Note[]): WhyOpen[] {
  const note = notes.find(({ shareId }) => shareId === id);
  return [
    ...(label === "public" ? [{ words: "Everything it reaches is labelled public.", waivedUntil: null }] : []),
    ...waivers
      .filter(({ shareId, isOver }) => shareId === id && !isOver)
      .map(({ reason, ends }) => ({ words: reason, waivedUntil: dayWords(seconds(ends)) })),
    ...(note ? [{ words: note.text, waivedUntil: null }] : []),
  ];
}

export const noReason = ({ label }: RegisterRow) => `No known reason; it reaches ${label} items.`;

const HEADS = ["Item", "Where", "How it is shared", "Why", "Until (UTC)", "Responsible", "As", "Share"];

/** The public list with its reasons, as CSV; a mark at the beginning says that it is UTF-8. */
export function publicListCsv(
  shares: readonly PublicShare[],
  waivers: readonly WaiverView[],
  notes: readonly Note[],
): string {
  const lines = shares.map(({ row, sentence, answers }) => {
    const why = whyOpen(row, waivers, notes).map(({ words, waivedUntil }) =>
      waivedUntil === null ? words : `${words} (waived until ${waivedUntil})`,
    );
    return [
      row.itemName,
      [row.storeName, ...row.place].join(" / "),
      sentence,
      why.length === 0 ? noReason(row) : why.join(" "),
      row.expires === NEVER ? "" : dayWords(row.expires),
      answers?.name ?? "",
      answers?.as ?? "",
      row.id,
    ].map(safeCell);
  });
  return `\ufeff${csvLines([HEADS, ...lines])}`;
}
