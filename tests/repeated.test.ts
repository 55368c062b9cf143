import { currentRecords } from "@/server/records/facts";
import { importEstate } from "@/server/stores/importEstate";
import { appIn } from "./app";
import { group, head, person } from "./records";

test("a membership that a file repeats is kept once, in a first file and in a later one", async () => {
  const app = await appIn();
  const add = (records: readonly object[]) =>
    importEstate(
      app,
      records.map((record) => JSON.stringify(record)),
      { as: "archive", name: "archive.jsonl" },
    );
  const crew = group("crew", "out");
  const member = crew[1];
  const people = [head(), person("out", "out@quay.example"), ...crew];
  // All but the estate record, which is none of the file's facts.
  expect(await add([...people, member, member])).toMatchObject({ problems: [], changed: people.length - 1 });
  const again = await add([...people, member, person("new", "new@quay.example")]);
  expect(again).toMatchObject({ problems: [], changed: 1 });
  expect([...currentRecords(app.db)].filter(({ type }) => type === "member")).toHaveLength(1);
  await app.close();
});
