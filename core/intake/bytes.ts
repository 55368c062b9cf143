import { fileTypeFromBuffer } from "file-type";
import { lookup } from "mime-types";
import { endingsOf } from "./names";

/** Containers of other formats: their first bytes say no more than that. */
const CONTAINERS: Record<string, RegExp> = {
  "application/zip": /\+zip$|openxmlformats|opendocument|java-archive|android\.package|macroenabled/,
  "application/x-cfb": /msword|ms-excel|ms-powerpoint|ms-outlook|visio|msdownload/,
  "application/xml": /xml/,
  "text/xml": /xml/,
  "application/ogg": /ogg/,
  "video/mp4": /mp4|quicktime|m4a/,
};

/**
 * A file's media type by its first bytes, if that differs from what its ending says; null where
 * they agree, or where either tells nothing.
 */
export async function disagreement(name: string, firstBytes: Uint8Array): Promise<string | null> {
  const [ending] = endingsOf(name);
  const said = ending === undefined ? false : lookup(ending);
  if (said === false) return null;
  const found = await fileTypeFromBuffer(firstBytes);
  if (!found) return null;
  const isSame = found.mime === said || found.ext === ending || lookup(found.ext) === said;
  return isSame || CONTAINERS[found.mime]?.test(said) ? null : found.mime;
}
