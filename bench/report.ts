import { writeFileSync } from "node:fs";
import { cpus } from "node:os";

/** One figure: what was measured at which size, what is wanted of it, and what stands beside it. */
export interface Line {
  size: number;
  what: string;
  value: number;
  unit: "ms" | "MB" | "rows/s" | "%";
  /** At a million items; null where nothing is asked. */
  wanted: number | null;
  /** Whether that is wanted at this size too. */
  isAsked?: true;
  baseline?: { what: string; value: number; wantedRatio: number };
}

/** Collects the figures, tells each on the terminal as it comes, and keeps all of them. */
export class Report {
  private readonly lines: Line[] = [];

  add(line: Line) {
    this.lines.push(line);
    const { size, what, value, unit, baseline } = line;
    const beside = baseline
      ? `${baseline.what}: ${baseline.value.toFixed(0)} ms, ${(baseline.value / value).toFixed(0)} times (${baseline.wantedRatio} wanted)`
      : this.growthWords(line);
    const wanted = line.wanted !== null && (size === LARGEST || line.isAsked) ? `wanted ${line.wanted}` : "";
    console.log(
      `${size.toLocaleString("en-GB").padStart(9)}  ${what.padEnd(58)} ${value.toFixed(3).padStart(10)} ${unit}  ${wanted.padEnd(13)} ${beside}`,
    );
  }

  /** How many times what it was at a tenth of the size. */
  private growthWords({ size, what, value }: Line): string {
    const smaller = this.lines.find((one) => one.what === what && one.size === size / 10);
    return smaller ? `${(value / smaller.value).toFixed(1)} times that at ${smaller.size.toLocaleString("en-GB")}` : "";
  }

  save(path: string) {
    const machine = { node: process.version, cores: cpus().length, model: cpus()[0].model };
    writeFileSync(path, JSON.stringify({ ...machine, lines: this.lines }, null, 2) + "\n");
  }
}

export const LARGEST = 1_000_000;
