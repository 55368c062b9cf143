import PDFDocument from "pdfkit";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { LABELS } from "@/core/estate/records";
import { readNote } from "@/core/ledger/checkpoint";
import { base64 } from "@/core/ledger/bytes";
import { RULE_IDS, RULES } from "@/core/rules/list";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { dayIn, UTC_DATES } from "@/core/time/style";
import { docketsBetween, receiptsOf } from "../../dockets/between";
import type { Asking } from "../../engine/client";
import { connections } from "../../stores/connections";
import { readingDays } from "../../stores/readingDays";
import { roundsBetween } from "../../rounds";
import { waiversBetween } from "../../rules";
import { endsOf } from "./span";
import type { PackSpan } from "./tables";

type Row = readonly string[];
interface Section {
  title: string;
  words: string;
  heads: Row;
  rows: readonly Row[];
}

const OUTSIDE = "state:live outside:yes";
/** Figures of the register: what each is called, and the query that counts it. */
const FIGURES: readonly (readonly [title: string, query: string])[] = [
  ["Shares that lead outside", OUTSIDE],
  ["Open to anyone", `${OUTSIDE} reach:open`],
  ["Open to anyone, without a password", `${OUTSIDE} reach:open -password:set`],
  ["Without an end", `${OUTSIDE} ends:never`],
  ["Never used", `${OUTSIDE} used:never`],
  ...LABELS.map((label) => [`On ${label} items`, `${OUTSIDE} label:${label}`] as const),
];

/** What a person reads of a pack. @param note the newest checkpoint from before the pack @returns a PDF */
export async function reportOf(app: Asking, span: PackSpan, note: string): Promise<Uint8Array> {
  const sections = [
    await figures(app, span),
    await findings(app, span),
    await done(app, span),
    await complete(app, span),
  ];
  const { size, root } = readNote(note).checkpoint;
  const foot = `Checkpoint of the ledger: ${size.toLocaleString("en-GB")} entries, root ${base64(root)}`;
  return drawn(
    `Shared outside, ${[span.from, span.to].map((at) => dayIn(UTC_DATES, at)).join(" to ")}`,
    introduction(span),
    sections,
    {
      foot,
      at: app.clock.seconds(),
    },
  );
}

function introduction({ scope }: PackSpan): string {
  return `${scope === "" ? "About everything that is known." : `About what this query finds: ${scope}`} Days are of UTC. The tables of this pack have every line behind these figures, and README.txt says how to check them.`;
}

async function counted(app: Asking, { scope }: PackSpan, queries: readonly string[], at: Seconds): Promise<number[]> {
  return app.engine.ask("counts", { queries: queries.map((query) => `${query} ${scope}`.trim()) }, at);
}

async function figures(app: Asking, span: PackSpan): Promise<Section> {
  const queries = FIGURES.map(([, query]) => query);
  const [first, last] = endsOf(span);
  const [before, now] = [await counted(app, span, queries, first), await counted(app, span, queries, last)];
  return {
    title: "What was open",
    words: "Live shares that lead outside, at the end of the first day and at the end of the last.",
    heads: ["Shares", ...endsOf(span).map((at) => dayIn(UTC_DATES, at))],
    rows: FIGURES.map(([title], i) => [title, ...[before[i], now[i]].map(number)]),
  };
}

async function findings(app: Asking, span: PackSpan): Promise<Section> {
  const counts = await counted(
    app,
    span,
    RULE_IDS.map((rule) => `rule:${rule}`),
    span.to,
  );
  const broken = RULE_IDS.map((rule, i) => [RULES[rule].title, number(counts[i])]).filter((_, i) => counts[i] > 0);
  return {
    title: "What broke a rule at the end of the last day",
    words: broken.length === 0 ? "No share broke a rule that was on." : "Shares that break each rule that was on.",
    heads: ["Rule", "Shares"],
    rows: broken,
  };
}

async function done({ db }: Asking, { from, to }: PackSpan): Promise<Section> {
  const [begins, ends] = [rfc3339(from), rfc3339(to)];
  const dockets = await docketsBetween(db, begins, ends);
  let changes = 0;
  for (const { id } of dockets) changes += (await receiptsOf(db, id)).filter(({ state }) => state === "done").length;
  const [rounds, waivers] = [await roundsBetween(db, from, to), await waiversBetween(db, begins, ends)];
  return {
    title: "What was done",
    words: "Counted over the whole span, whatever the pack is narrowed to.",
    heads: ["What", "How many"],
    rows: [
      ["Dockets applied", number(dockets.length)],
      ["Changes carried out", number(changes)],
      ["Rounds held", number(rounds.length)],
      ["Waivers that held", number(waivers.length)],
    ],
  };
}

async function complete({ db }: Asking, { days: [from, to] }: PackSpan): Promise<Section> {
  const days = await readingDays(db, from, to);
  const stores = [...new Set(days.map(({ store }) => store))];
  const names = new Map((await connections(db)).map(({ id, name }) => [id, name]));
  return {
    title: "Whether this is complete",
    words:
      days.length === 0
        ? "No reading of a store was counted in this span: what is told may be older."
        : "What is told here is as complete as what was read.",
    heads: ["Store", "Days with readings", "Readings", "Failed", "Longest gap in hours"],
    rows: stores.map((store) => {
      const own = days.filter((one) => one.store === store);
      const sum = (of: (one: (typeof own)[number]) => number) => own.reduce((total, one) => total + of(one), 0);
      const gap = Math.max(...own.map((one) => one.gap)) / 3_600;
      return [
        names.get(store) ?? store,
        number(own.length),
        number(sum((one) => one.readings)),
        number(sum((one) => one.errors)),
        gap.toFixed(1),
      ];
    }),
  };
}

const number = (value: number) => value.toLocaleString("en-GB");

/** The house's font as a whole file: PDF readers don't take the web's. */
async function font(weight: "400Regular" | "600SemiBold"): Promise<Buffer> {
  const root = process.env.LATCH_ROOT ?? process.cwd();
  const name = `AtkinsonHyperlegibleNext_${weight}.ttf`;
  const folder = "node_modules/@expo-google-fonts/atkinson-hyperlegible-next";
  return readFile(join(/*turbopackIgnore: true*/ root, folder, weight, name));
}

/** Draws a tagged PDF: headings, paragraphs and tables; on each page its number and the foot. */
async function drawn(
  title: string,
  words: string,
  sections: readonly Section[],
  { foot, at }: { foot: string; at: Seconds },
): Promise<Uint8Array> {
  const date = new Date(at * 1_000);
  const [plain, bold] = [await font("400Regular"), await font("600SemiBold")];
  const doc = new PDFDocument({
    ...{ size: "A4", margins: { top: 56, bottom: 64, left: 56, right: 56 }, bufferPages: true, font: null as never },
    ...{ tagged: true, lang: "en-GB", displayTitle: true, pdfVersion: "1.7" },
    info: { Title: title, CreationDate: date, ModDate: date },
  });
  const pieces: Buffer[] = [];
  doc.on("data", (piece: Buffer) => pieces.push(piece));
  const ended = new Promise((resolve) => doc.on("end", resolve));
  doc.registerFont("plain", plain).registerFont("bold", bold);
  const structure = doc.struct("Document");
  doc.addStructure(structure);
  const tagged = (tag: string, draw: () => void) => structure.add(doc.struct(tag, {}, draw));
  tagged("H1", () => doc.font("bold").fontSize(20).text(title));
  tagged("P", () => doc.moveDown(0.4).font("plain").fontSize(10.5).text(words));
  for (const { title, words, heads, rows } of sections) {
    tagged("H2", () => doc.moveDown(1.2).font("bold").fontSize(13.5).text(title));
    tagged("P", () => doc.moveDown(0.2).font("plain").fontSize(10.5).text(words).moveDown(0.5));
    if (rows.length > 0) doc.table({ data: [headRow(heads), ...rows.map(bodyRow)], ...LOOK, ...within(structure) });
  }
  structure.end();
  footPages(doc, foot);
  doc.end();
  await ended;
  return Buffer.concat(pieces);
}

/** What is counted stands under its head, at the right; so that long titles have room. */
const columns = (index: number) => (index === 0 ? { width: TITLE_WIDTH } : { align: { x: "right" } });
const TITLE_WIDTH = 230;
const LOOK = {
  defaultStyle: { border: [0, 0, 0.5, 0], borderColor: "#b9c6c6", padding: [3, 6, 3, 0] },
  columnStyles: columns,
} as object;
/** The package's types don't know yet that a table can be a part of a document's structure. */
const within = (structParent: PDFKit.PDFStructureElement) => ({ structParent }) as object;
const headRow = (heads: Row) => heads.map((text) => ({ text, type: "TH" as const, font: { src: "bold", size: 9.5 } }));
const bodyRow = (row: Row) => row.map((text) => ({ text, font: { src: "plain", size: 10 } }));

/** What every page ends with isn't part of what is read out. */
function footPages(doc: PDFKit.PDFDocument, foot: string) {
  const { start, count } = doc.bufferedPageRange();
  for (let i = start; i < start + count; i++) {
    doc.switchToPage(i);
    doc.page.margins.bottom = 0;
    doc.markContent("Artifact", { type: "Pagination" } as never);
    doc.font("plain").fontSize(7.5).fillColor("#4a5a5c");
    doc.text(foot, 56, doc.page.height - 44, { lineBreak: false });
    doc.text(`${i + 1} of ${count}`, 56, doc.page.height - 32, { lineBreak: false });
    doc.endMarkedContent();
  }
}
