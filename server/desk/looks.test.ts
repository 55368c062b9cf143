import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { NOW } from "@/tests/records";
import { openDatabase } from "../platform/db/open";
import { keepText, keptText } from "../platform/saved";
import { lookedAtDesk } from "./looks";

process.env.LATCH_NOW = NOW;
process.env.LATCH_DATA = mkdtempSync(join(tmpdir(), "latch-looks-"));

test("a look within the hour is the same look; a later one tells of the one before, for each person", async () => {
  const db = await openDatabase(join(mkdtempSync(join(tmpdir(), "latch-looks-")), "latch.sqlite"));
  expect([await lookedAtDesk(db, "ada"), await lookedAtDesk(db, "ada")]).toEqual([null, null]);
  const long = { looked: "2026-10-05T07:00:00Z", before: "2026-10-01T08:00:00Z" };
  await keepText(db, "ada", "desk", JSON.stringify(long));
  expect([await lookedAtDesk(db, "ada"), await lookedAtDesk(db, "ada")]).toEqual([long.looked, long.looked]);
  expect(JSON.parse((await keptText(db, "ada", "desk"))!)).toEqual({ looked: NOW, before: long.looked });
  expect(await lookedAtDesk(db, "bea")).toBeNull();
  await db.destroy();
});
