import { base64 } from "@/core/ledger/bytes";
import { readNote } from "@/core/ledger/checkpoint";
import { leftWords, type Report, type ReportChart } from "@/core/evidence/report";
import type { Seconds } from "@/core/time/instant";
import { chartPicture } from "./drawChart";
import { drawTable } from "./drawTable";
import { Paper } from "./paper";

const CHART_HEIGHT = 150;

/**
 * A report as a tagged PDF.
 * @param note the newest checkpoint of the ledger: it stands in the foot of each page, where one was made yet
 * @param at when the report is made
 */
export async function drawn(report: Report, note: string | undefined, at: Seconds): Promise<Uint8Array> {
  const paper = await Paper.of(report.title, at);
  paper.text("H1", report.title, { weight: "bold", size: 20 }, 0);
  paper.text("P", report.words, { weight: "plain", size: 10.5 }, 6);
  for (const { title, words, chart, table } of report.sections) {
    // Avoids a title alone at the end of a page.
    paper.makeRoom(90);
    paper.text("H2", title, { weight: "bold", size: 13.5 }, 18);
    paper.text("P", words, { weight: "plain", size: 10.5 }, 3);
    paper.space(8);
    if (chart) await drawChart(paper, chart);
    if (!table || table.rows.length === 0) continue;
    await drawTable(paper, table);
    paper.text("P", leftWords(table), { weight: "plain", size: 9 }, 4);
  }
  return paper.finish(footWords(note));
}

async function drawChart(paper: Paper, chart: ReportChart) {
  paper.makeRoom(CHART_HEIGHT);
  const picture = await chartPicture(chart, paper.width, CHART_HEIGHT);
  const top = paper.doc.y;
  const alt = `${chart.lines.map(({ name, values }) => `${name}: ${values[0]} to ${values[values.length - 1]}`).join("; ")}.`;
  const bbox = [paper.left, top, paper.left + paper.width, top + CHART_HEIGHT];
  paper.add("Figure", { alt, bbox, placement: "Block" }, () =>
    paper.doc.image(Buffer.from(picture), paper.left, top, { width: paper.width, height: CHART_HEIGHT }),
  );
  paper.doc.y = top + CHART_HEIGHT + 8;
}

function footWords(note: string | undefined): string {
  if (note === undefined) return "No checkpoint of the ledger had been made.";
  const { size, root } = readNote(note).checkpoint;
  return `Checkpoint of the ledger: ${size.toLocaleString("en-GB")} entries, root ${base64(root)}`;
}
