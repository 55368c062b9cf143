import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout } from "node:timers/promises";
import { saveText, savedText } from "../saved";
import { type Db, openDatabase, writing } from "./open";

let both: [Db, Db];
beforeEach(async () => {
  const path = join(mkdtempSync(join(tmpdir(), "latch-open-")), "latch.sqlite");
  both = [await openDatabase(path), await openDatabase(path)];
});
afterEach(() => Promise.all(both.map((db) => db.destroy())));

test("whoever writes while another connection does waits its turn, and all else goes on meanwhile", async () => {
  const [one, other] = both;
  const done: string[] = [];
  const first = writing(one, async (tx) => {
    await saveText(tx, "", "a", "one");
    // Were the other's wait to hold this thread up, this would never be over.
    await setTimeout(100);
    done.push("one");
  });
  const second = writing(other, async (tx) => {
    await saveText(tx, "", "a", `${await savedText(tx, "", "a")} and another`);
    done.push("another");
  });
  await setTimeout(20);
  expect(await savedText(other, "", "a")).toBeUndefined();
  done.push("read");
  await Promise.all([first, second]);
  expect(done).toEqual(["read", "one", "another"]);
  expect(await savedText(one, "", "a")).toBe("one and another");
});

test("whatever fails for another reason than a lock is told at once", async () => {
  const [one] = both;
  one.sqlite.close();
  await expect(writing(one, async () => undefined)).rejects.toThrow("not open");
});
