import QRCode from "qrcode";
import type { LinkRecord } from "@/core/estate/records";
import { type Db, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { FileAnswer } from "../platform/serving";
import { factNow } from "../records/facts";
import { appendWithin } from "../records/ledger/ledger";
import { requestOf } from "./requests";

const TYPES = { png: "image/png", svg: "image/svg+xml" } as const;
/** Modules of white around the code: four, by ISO/IEC 18004. */
const MARGIN = 4;
/** Enough for a screen; what is printed large is the SVG. */
const PIXELS = 512;

/**
 * The address of a link that was made for anyone, as a QR code to print: whoever sees the code has the address. That it
 * was shown is in the ledger.
 */
export async function codeOf(db: Db, actor: string, id: string, format: keyof typeof TYPES): Promise<FileAnswer> {
  const { shares, wish } = await requestOf(db, id);
  const ids = wish.to === "anyone" ? shares : [];
  const links = await Promise.all(ids.map((share) => factNow<LinkRecord>(db, "link", share)));
  const link = links.find((one) => one !== null && one.reach === "open" && !one.revokedAt);
  if (!link?.address) throw new Problem("unknown", "A code is only for a link that is open to anyone, while it works.");
  await writing(db, (tx) => appendWithin(tx, actor, "share-code-shown", { request: id, format }));
  const options = { margin: MARGIN, errorCorrectionLevel: "M" } as const;
  const body =
    format === "svg"
      ? await QRCode.toString(link.address, { ...options, type: "svg" })
      : Uint8Array.from(await QRCode.toBuffer(link.address, { ...options, width: PIXELS, type: "png" }));
  return { type: TYPES[format], name: `link.${format}`, body };
}
