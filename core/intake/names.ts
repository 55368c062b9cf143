import { extensions, lookup } from "mime-types";
import { holdsUnseen } from "../text/shown";

/**
 * Media types of files that run when opened, or make others run: as registered (IANA), or as the registry's list
 * of types knows them. Their endings come from that list.
 */
export const RUNNING_TYPES = [
  "application/vnd.microsoft.portable-executable",
  "application/x-msdownload",
  "application/x-msdos-program",
  "application/x-ms-shortcut",
  "application/vnd.ms-word.document.macroenabled.12",
  "application/vnd.ms-excel.sheet.macroenabled.12",
  "application/vnd.ms-powerpoint.presentation.macroenabled.12",
  "application/java-archive",
  "application/vnd.android.package-archive",
  "application/x-apple-diskimage",
  "application/x-debian-package",
  "application/x-redhat-package-manager",
  "application/x-sh",
  "application/x-csh",
  "application/x-perl",
  "application/x-httpd-php",
  "application/x-elf",
  "application/x-mach-binary",
  "text/javascript",
  "text/html",
  "image/svg+xml",
];

/** Endings of files that run and that the list of types doesn't have (common practice, no source). */
const MORE_RUNNING = [
  "scr",
  "pif",
  "cmd",
  "cpl",
  "hta",
  "vbs",
  "vbe",
  "jse",
  "wsf",
  "wsh",
  "ps1",
  "psm1",
  "reg",
  "msp",
].concat(["py", "rb", "app", "run", "bin", "iso", "img", "appimage", "desktop", "url", "scf", "chm", "lnk"]);

export const RUNNING_ENDINGS: ReadonlySet<string> = new Set([
  ...RUNNING_TYPES.flatMap((type) => extensions[type] ?? []),
  ...MORE_RUNNING,
]);

/** The endings of a name, the last first: `invoice.pdf.exe` has exe and pdf. Blanks and dots at its end hide none. */
export function endingsOf(name: string): string[] {
  const parts = name
    .trim()
    .replace(/[\s.]+$/u, "")
    .split(".")
    .slice(1)
    .map((part) => part.trim().toLowerCase());
  return parts.reverse();
}

/** Whether a file with this name, or said to be of this type, runs when it is opened. */
export function canRun(name: string, mediaType: string | null): boolean {
  const [ending] = endingsOf(name);
  const type = mediaType?.split(";")[0].trim().toLowerCase() ?? "";
  return (ending !== undefined && RUNNING_ENDINGS.has(ending)) || RUNNING_TYPES.includes(type);
}

/** Whether a name disguises a program as a document: another known ending comes before its own. */
export function hasDoubleEnding(name: string): boolean {
  const [last, ...before] = endingsOf(name);
  if (last === undefined || !RUNNING_ENDINGS.has(last)) return false;
  return before.some((ending) => lookup(ending) !== false);
}

/** Whether a name contains invisible characters, or ones that reverse the text. */
export function hasHidden(name: string): boolean {
  return holdsUnseen(name);
}
