import { rmSync } from "node:fs";
import { MADE } from "./setUp";

export default function tearDown() {
  rmSync(process.env[MADE]!, { recursive: true, force: true });
}
