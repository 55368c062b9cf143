import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { saveText, savedText } from "../saved";
import { type Db, openDatabase } from "./open";
import { WritingTogether } from "./together";

let db: Db;
beforeEach(async () => {
  db = await openDatabase(join(mkdtempSync(join(tmpdir(), "latch-together-")), "latch.sqlite"));
});
afterEach(() => db.destroy());

test("what comes at the same time is kept, each in its turn", async () => {
  const together = new WritingTogether(db);
  const names = Array.from({ length: 50 }, (_, n) => `name ${n}`);
  await Promise.all(names.map((name) => together.write((within) => saveText(within, "", name, name))));
  expect(await Promise.all(names.map((name) => savedText(db, "", name)))).toEqual(names);
});

test("one that fails is told so and leaves nothing behind; the others are kept", async () => {
  const together = new WritingTogether(db);
  const bad = together.write(async (within) => {
    await saveText(within, "", "half", "done");
    throw new Error("It went wrong.");
  });
  const good = ["a", "b"].map((name) => together.write((within) => saveText(within, "", name, name)));
  await expect(bad).rejects.toThrow("It went wrong.");
  await Promise.all(good);
  expect(await Promise.all(["a", "b", "half"].map((name) => savedText(db, "", name)))).toEqual(["a", "b", undefined]);
});
