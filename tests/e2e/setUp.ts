import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Names the folder of the demos that the workers of one run make and copy. */
export const MADE = "LATCH_DEMOS_MADE";

export default function setUp() {
  process.env[MADE] = mkdtempSync(join(tmpdir(), "latch-demos-"));
}
