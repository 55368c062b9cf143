import PDFDocument from "pdfkit";
import type { Seconds } from "@/core/time/instant";
import { type Face, fontFile, type Weight } from "./fonts";

const MARGIN = 56;
/** Below this, there is only the foot. */
const FOOT = 64;
const INK = "#1c2b2d";
const SOFT = "#4a5a5c";

interface Fontkit {
  hasGlyphForCodePoint(code: number): boolean;
}

/** How a text is set. */
export interface Setting {
  weight: Weight;
  size: number;
}

/**
 * A tagged PDF that grows downwards: what is set goes into its structure, so that a screen reader meets headings,
 * paragraphs, tables and figures; feet and repeated heads of tables don't, being read once is enough.
 */
export class Paper {
  readonly left = MARGIN;
  private readonly pieces: Buffer[] = [];
  private readonly ended: Promise<unknown>;

  private constructor(
    readonly doc: PDFKit.PDFDocument,
    private readonly structure: PDFKit.PDFStructureElement,
    private readonly house: Fontkit,
  ) {
    doc.on("data", (piece: Buffer) => this.pieces.push(piece));
    this.ended = new Promise((resolve) => doc.on("end", resolve));
  }

  /** @param at when it is made: the same report made at the same time is the same file */
  static async of(title: string, at: Seconds): Promise<Paper> {
    const date = new Date(at * 1_000);
    const doc = new PDFDocument({
      ...{ size: "A4", margins: { top: MARGIN, bottom: FOOT, left: MARGIN, right: MARGIN }, bufferPages: true },
      ...{ font: null as never, tagged: true, lang: "en-GB", displayTitle: true, pdfVersion: "1.7" },
      info: { Title: title, CreationDate: date, ModDate: date },
    });
    for (const face of ["house", "wide"] as const)
      for (const weight of ["plain", "bold"] as const)
        doc.registerFont(`${face} ${weight}`, await fontFile(face, weight));
    const structure = doc.struct("Document");
    doc.addStructure(structure);
    doc.font("house plain");
    return new Paper(doc, structure, (doc as unknown as { _font: { font: Fontkit } })._font.font);
  }

  get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }

  /** The lower limit of this page. */
  get bottom(): number {
    return this.doc.page.height - FOOT;
  }

  /** Switches to a font that has all letters of a text. */
  take(text: string, { weight, size }: Setting): PDFKit.PDFDocument {
    return this.doc
      .font(`${this.faceFor(text)} ${weight}`)
      .fontSize(size)
      .fillColor(INK);
  }

  private faceFor(text: string): Face {
    for (const sign of text) if (!this.house.hasGlyphForCodePoint(sign.codePointAt(0)!)) return "wide";
    return "house";
  }

  /** Adds an element to the structure, or a group of elements. */
  add(tag: string, options: object = {}, draw?: () => void): PDFKit.PDFStructureElement {
    const element = draw ? this.doc.struct(tag, options as never, draw) : this.doc.struct(tag, options as never);
    this.structure.add(element);
    return element;
  }

  text(tag: "H1" | "H2" | "P" | "Caption", text: string, setting: Setting, before: number) {
    if (text === "") return;
    this.space(before);
    this.add(tag, {}, () => this.take(text, setting).text(text, this.left, this.doc.y, { width: this.width }));
  }

  /** Leaves some room, unless at the head of a page. */
  space(points: number) {
    if (this.doc.y > MARGIN) this.doc.y += points;
  }

  /** Begins a new page if so much doesn't fit on this one. @returns whether it did */
  makeRoom(height: number): boolean {
    if (this.doc.y + height <= this.bottom) return false;
    this.doc.addPage();
    return true;
  }

  /** Draws something that a screen reader shouldn't read out. */
  aside(type: "Pagination" | "Layout", draw: () => void) {
    this.doc.markContent("Artifact", { type } as never);
    draw();
    this.doc.endMarkedContent();
  }

  /** Adds the foot to every page and ends the file. */
  async finish(foot: string): Promise<Uint8Array> {
    this.structure.end();
    const { start, count } = this.doc.bufferedPageRange();
    for (let i = start; i < start + count; i++) {
      this.doc.switchToPage(i);
      this.doc.page.margins.bottom = 0;
      const { height } = this.doc.page;
      this.aside("Pagination", () => {
        this.doc.font("house plain").fontSize(7.5).fillColor(SOFT);
        this.doc.text(foot, this.left, height - 44, { lineBreak: false });
        this.doc.text(`${i + 1} of ${count}`, this.left, height - 32, { lineBreak: false });
      });
    }
    this.doc.end();
    await this.ended;
    return Buffer.concat(this.pieces);
  }
}
