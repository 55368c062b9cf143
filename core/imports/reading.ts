import { DateOrders } from "./dates";
import { DATE_FIELDS } from "./field";
import type { Rows } from "./file";
import { columnsOf } from "./headings";
import type { DateOrder, Mapping } from "./mapping";
import { Report } from "./report";
import { RowReader } from "./row";

/** How many rows below the headings are looked at to find the table's width. */
const ROWS_BELOW = 32;

/** Rows of a report below its headings, with their numbers in the file; in pieces as they come. */
class Below {
  private top: Rows | null = [];
  private row = 0;
  columns: string[] = [];

  constructor(private readonly mapping: Mapping) {}

  *take(rows: Rows, isLast = false): Generator<[row: number, cells: string[]]> {
    if (this.top) {
      this.top.push(...rows);
      const { headingRow, headingRows } = this.mapping;
      if (this.top.length < headingRow + headingRows + ROWS_BELOW && !isLast) return;
      this.columns = columnsOf(this.top, this.mapping);
      rows = this.top.slice(headingRow - 1 + headingRows);
      this.row = headingRow - 1 + headingRows;
      this.top = null;
    }
    for (const cells of rows) yield [++this.row, cells];
  }
}

/** Looks through a report to find out how its dates are written. */
export class DateLook {
  readonly orders = new DateOrders();
  private readonly below: Below;

  constructor(private readonly mapping: Mapping) {
    this.below = new Below(mapping);
  }

  take(rows: Rows, isLast = false) {
    for (const [row, cells] of this.below.take(rows, isLast))
      for (const field of DATE_FIELDS) {
        const at = this.below.columns.indexOf(this.mapping.columns[field] ?? "");
        if (at >= 0) this.orders.add(row, cells[at] ?? "");
      }
  }
}

/** Reads a report whole, in pieces as they come. */
export class ReportReading {
  readonly report = new Report();
  private readonly below: Below;
  private reader: RowReader | undefined;

  constructor(
    private readonly mapping: Mapping,
    private readonly order: Exclude<DateOrder, "by the rows">,
  ) {
    this.below = new Below(mapping);
  }

  take(rows: Rows, isLast = false) {
    for (const [row, cells] of this.below.take(rows, isLast)) {
      this.reader ??= new RowReader(this.mapping, this.below.columns, this.order);
      this.report.add(row, this.reader.read(cells));
    }
  }
}

/** Reads a report of which all rows are at hand. @returns the report, or the question that its dates leave open */
export function readReport(rows: Rows, mapping: Mapping): Report | { question: string } {
  let order = mapping.dateOrder;
  if (order === "by the rows") {
    const look = new DateLook(mapping);
    look.take(rows, true);
    const { settled, question } = look.orders;
    if (settled === null) return { question: question! };
    order = settled;
  }
  const reading = new ReportReading(mapping, order);
  reading.take(rows, true);
  return reading.report.finish();
}
