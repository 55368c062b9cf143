import { createHash } from "node:crypto";
import type { EventRecord, ItemRecord, LinkRecord, PersonRecord } from "../core/estate/records";
import type { Calendar } from "./calendar";
import type { Random } from "./random";

/** The first bytes of files by their endings: those by which each is known (PDF: ISO 32000; MP4: ISO/IEC 14496-12). */
const HEADS: Record<string, Uint8Array> = {
  pdf: Buffer.from("%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n", "latin1"),
  mp4: Buffer.from("\0\0\0\u0018ftypmp42\0\0\0\0mp42isom", "latin1"),
  exe: Buffer.from("MZ\u0090\0\u0003\0\0\0\u0004\0\0\0\u00ff\u00ff\0\0", "latin1"),
};
const MOST = 14;

interface Sent {
  name: string;
  head: string;
  /** Instead of bytes of its own. */
  same?: string;
}

/** What came in by intake links: what lies in their folders, and a few files that want a second look. */
export function makeArrivals(
  random: Random,
  calendar: Calendar,
  links: readonly LinkRecord[],
  items: readonly ItemRecord[],
  senders: readonly PersonRecord[],
): EventRecord[] {
  return links.flatMap((link, n) => {
    const files = items.filter(({ parentId, kind }) => parentId === link.itemId && kind === "file");
    const sent = files.slice(0, MOST).map(({ name }): Sent => ({ name, head: name.split(".").at(-1)! }));
    if (n === 1) sent.push({ name: "Fee note.pdf.exe", head: "exe" }, { name: "Score, final.pdf", head: "exe" });
    if (n === 2) sent.push({ ...sent[0], name: `Copy of ${sent[0].name}`, same: sent[0].name });
    const days = (Date.parse(calendar.today) - Date.parse(link.createdAt)) / 86_400_000;
    return sent.map((one, i) =>
      arrivalOf(random, calendar, link, one, { days: days * (1 - (i + 1) / (sent.length + 1)), senders }),
    );
  });
}

function arrivalOf(
  random: Random,
  calendar: Calendar,
  link: LinkRecord,
  { name, head, same }: Sent,
  { days, senders }: { days: number; senders: readonly PersonRecord[] },
): EventRecord {
  const sender = random.pick(senders);
  const size = random.between(80_000, 9_000_000);
  return {
    ...{ type: "event", id: "", at: calendar.daysAgo(days), actorId: null, actorEmail: sender.email, verb: "sent-in" },
    ...{ itemId: link.itemId, shareId: link.id, ip: `203.0.113.${random.between(2, 250)}` },
    detail: {
      ...{ name, size, sender: sender.name },
      sha256: createHash("sha256")
        .update(`${link.itemId} ${same ?? name}`)
        .digest("hex"),
      ...(HEADS[head] && { firstBytes: Buffer.from(HEADS[head]).toString("base64") }),
    },
  };
}
