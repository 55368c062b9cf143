import { setImmediate } from "node:timers/promises";
import type { ReportTable } from "@/core/evidence/report";
import type { Paper, Setting } from "./paper";

const HEAD: Setting = { weight: "bold", size: 8.5 };
const BODY: Setting = { weight: "plain", size: 9.5 };
const LINE = "#b9c6c6";
/** Between a row's text and its lines, and between columns. */
const PAD = 3;
const GAP = 8;
/** The widest column, in points; longer texts run over several lines. */
const WIDEST = 200;
/** Texts up to this many characters stay on one line. */
const UNBROKEN = 12;
/** How many rows are drawn at a time. */
const AT_ONCE = 20;
/** How many rows the widths are worked out from: a table may have thousands. */
const LOOKED_AT = 200;

/** Draws a table, repeating its head on each further page. */
export async function drawTable(paper: Paper, table: ReportTable) {
  const widths = widthsOf(paper, table);
  const draw = (row: readonly string[], setting: Setting, tag?: Cells) =>
    drawRow(paper, row, widths, table.figures, setting, tag);
  const heightOf = (row: readonly string[], setting: Setting) => rowHeight(paper, row, widths, setting);
  const headHeight = heightOf(table.heads, HEAD);
  const element = paper.add("Table");
  const add = (row: readonly string[], setting: Setting, cell: "TH" | "TD") => {
    const line = paper.doc.struct("TR");
    element.add(line);
    draw(row, setting, (drawCell) =>
      line.add(paper.doc.struct(cell, (cell === "TH" ? { scope: "Column" } : {}) as never, drawCell)),
    );
    line.end();
  };
  paper.makeRoom(headHeight + (table.rows[0] ? heightOf(table.rows[0], BODY) : 0));
  add(table.heads, HEAD, "TH");
  for (const [i, row] of table.rows.entries()) {
    // Whoever asks for something else meanwhile shouldn't have to wait for all of a long table.
    if (i % AT_ONCE === 0) await setImmediate();
    if (paper.makeRoom(heightOf(row, BODY))) paper.aside("Layout", () => draw(table.heads, HEAD));
    add(row, BODY, "TD");
  }
  element.end();
}

type Cells = (draw: () => void) => void;

function drawRow(
  paper: Paper,
  row: readonly string[],
  widths: readonly number[],
  figures: readonly number[],
  setting: Setting,
  cell: Cells = (drawCell) => drawCell(),
) {
  const { doc } = paper;
  const top = doc.y;
  const height = rowHeight(paper, row, widths, setting);
  let x = paper.left;
  row.forEach((text, i) => {
    const at = x;
    const align = figures.includes(i) ? "right" : "left";
    cell(() => paper.take(text, setting).text(text, at, top + PAD, { width: widths[i], align }));
    x += widths[i] + GAP;
  });
  const y = top + height;
  const rule = () =>
    doc
      .moveTo(paper.left, y)
      .lineTo(paper.left + paper.width, y)
      .lineWidth(0.5)
      .stroke(LINE);
  rule();
  doc.y = y;
}

function rowHeight(paper: Paper, row: readonly string[], widths: readonly number[], setting: Setting): number {
  const heights = row.map((text, i) => paper.take(text, setting).heightOfString(text || " ", { width: widths[i] }));
  return Math.max(...heights) + 2 * PAD;
}

/**
 * As browsers lay out tables (CSS 2.2, section 17.5.2.2): each column has at least the width of its widest word; what is
 * left goes to the columns by how much more they could use.
 */
function widthsOf(paper: Paper, { heads, rows }: ReportTable): number[] {
  const room = paper.width - GAP * (heads.length - 1);
  const asked = heads.map((head, i) => {
    const texts = new Set(rows.slice(0, LOOKED_AT).map((row) => row[i]));
    const all = [needOf(paper, head, HEAD), ...[...texts].map((text) => needOf(paper, text, BODY))];
    return { least: Math.max(...all.map(({ least }) => least)), most: Math.max(...all.map(({ most }) => most)) };
  });
  const least = asked.reduce((sum, one) => sum + one.least, 0);
  const more = asked.reduce((sum, one) => sum + one.most - one.least, 0);
  // If there isn't enough room for that, columns shrink in proportion, and words are broken.
  if (least >= room) return asked.map((one) => (room * one.least) / least);
  return asked.map((one) => one.least + (more === 0 ? 0 : ((room - least) * (one.most - one.least)) / more));
}

/** The narrowest width at which no word of a text is broken, and the width at which it fits on one line. */
function needOf(paper: Paper, text: string, setting: Setting): { least: number; most: number } {
  const width = (part: string) => paper.take(part, setting).widthOfString(part) + 1;
  const most = Math.min(width(text), WIDEST);
  // A date, or a number with its unit, isn't broken.
  const least = text.length <= UNBROKEN ? most : Math.max(...text.split(/(?<=[\s@./_-])/).map(width));
  return { least: Math.min(least, most), most };
}
