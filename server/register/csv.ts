import Papa from "papaparse";

/** RFC 4180: lines end with CR LF, and a field with a quote, a comma or a line end in it stands in quotes. */
export function csvLines(lines: string[][]): string {
  return lines.length === 0 ? "" : `${Papa.unparse(lines, { newline: "\r\n" })}\r\n`;
}
