import Papa from "papaparse";

/** RFC 4180: lines end with CR LF, and a field with a quote, a comma or a line end in it stands in quotes. */
export function csvLines(lines: readonly string[][]): string {
  return lines.map((cells) => csvLine(cells.map(csvCell))).join("");
}

/** @param cells as `csvCell` writes them */
export function csvLine(cells: readonly string[]): string {
  return `${cells.join(",")}\r\n`;
}

/** Most cells need no quotes, and asking the package about each of those would take longer than all the rest. */
const MAY_NEED_QUOTES = /[",\r\n\ufeff]|^ | $/;

export function csvCell(text: string): string {
  return MAY_NEED_QUOTES.test(text) ? Papa.unparse([[text]]) : text;
}
