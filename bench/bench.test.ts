import { Exposures } from "../core/access/exposure";
import { buildEstate } from "../core/estate/estate";
import { readEstateFile } from "../core/estate/estateFile";
import { inDuckdb } from "./duckdb";
import { generateEstate } from "./generate";
import { inObjects, objectRows } from "./objects";
import { compare } from "./outside";
import { inSqlite } from "./sqlite";
import { timed } from "./timing";

describe.each([1, 2, 3])("a generated estate, seed %s", (seed) => {
  const records = [...generateEstate(3_000, seed)];
  const estate = buildEstate(records);
  const ours = new Exposures(estate, "outside").evaluate(estate.asOf);

  test("is an estate file without a fault", () => {
    expect(readEstateFile(records.map((record) => JSON.stringify(record))).problems).toEqual([]);
    expect(estate.dangling).toEqual([]);
  });

  test("has the weight that it should", () => {
    const count = (type: string) => records.filter((record) => record.type === type).length;
    expect([count("item"), count("link") + count("grant"), count("person")]).toEqual([3_000, 750, 60]);
    const cut = records.filter((record) => record.type === "item" && !record.inherits).length;
    expect(cut / 3_000).toBeCloseTo(0.03, 1);
  });

  /** Oracles: a recursive query over the same shares in two databases, and a tree of objects. */
  test("is answered by SQLite, DuckDB and plain objects as by the engine, item by item", async () => {
    compare("SQLite", estate, ours, inSqlite(estate)());
    compare("DuckDB", estate, ours, await (await inDuckdb(estate))());
    compare("Objects", estate, ours, objectRows(inObjects(estate)()));
  });

  test("a wrong answer would be noticed", () => {
    const wrong = new Exposures(estate, "outside").evaluate(estate.asOf);
    const most = Array.from(wrong.stateAt.keys()).find((at) => wrong.at(at)!.outsiders > wrong.at(100)!.outsiders)!;
    wrong.stateAt[100] = wrong.stateAt[most];
    expect(() => compare("Objects", estate, wrong, objectRows(inObjects(estate)()))).toThrow("differ on");
  });
});

test("times are told by their middle and by their tail", async () => {
  const { median, p95, p99, result } = await timed(20, (run) => run);
  expect([median <= p95, p95 <= p99, result]).toEqual([true, true, 19]);
});
