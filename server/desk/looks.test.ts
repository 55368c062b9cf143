import { NOW } from "@/tests/records";
import { appIn } from "@/tests/app";
import { saveText, savedText } from "../platform/saved";
import { lookedAtDesk } from "./looks";

test("a look within the hour is the same look; a later one tells of the one before, for each person", async () => {
  const app = await appIn();
  const { db } = app;
  expect([await lookedAtDesk(db, "ada"), await lookedAtDesk(db, "ada")]).toEqual([null, null]);
  const long = { looked: "2026-10-05T07:00:00Z", before: "2026-10-01T08:00:00Z" };
  await saveText(db, "ada", "desk", JSON.stringify(long));
  expect([await lookedAtDesk(db, "ada"), await lookedAtDesk(db, "ada")]).toEqual([long.looked, long.looked]);
  expect(JSON.parse((await savedText(db, "ada", "desk"))!)).toEqual({ looked: NOW, before: long.looked });
  expect(await lookedAtDesk(db, "bea")).toBeNull();
  await app.close();
});
