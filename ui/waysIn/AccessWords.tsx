import type { Access } from "@/core/access/paths";
import { NEVER } from "@/core/time/instant";
import { dayWords } from "../parts/words";

/** What somebody may do, and until when. */
export function AccessWords({ access }: { access: Access }) {
  const download = access.download ? "and download" : "not download";
  const until = access.until === NEVER ? "for ever" : `until ${dayWords(access.until)}`;
  return `may ${access.role}, ${download}, ${until}`;
}
