import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DAY } from "@/core/time/instant";
import { removeAbandoned } from "./abandoned";

let packs: string;

beforeEach(() => {
  packs = mkdtempSync(join(tmpdir(), "latch-abandoned-"));
});
afterEach(() => rmSync(packs, { recursive: true, force: true }));

test("what a process left that ended while it made a pack goes after a day; what another is making stays", async () => {
  const left = join(packs, "making-before");
  const others = join(packs, "making-now");
  for (const folder of [left, others]) mkdirSync(folder);
  for (const file of [`${left}.zip`, `${others}.zip`, join(packs, "pack-1.zip")]) writeFileSync(file, "");
  const longAgo = Date.now() / 1_000 - 2 * DAY;
  for (const path of [left, `${left}.zip`, join(packs, "pack-1.zip")]) utimesSync(path, longAgo, longAgo);
  await removeAbandoned(packs);
  expect(readdirSync(packs).sort()).toEqual(["making-now", "making-now.zip", "pack-1.zip"]);
});

test("where no pack was ever made there is nothing to remove", async () => {
  const none = join(packs, "none");
  await removeAbandoned(none);
  expect(existsSync(none)).toBe(false);
});
