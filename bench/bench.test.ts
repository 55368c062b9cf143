import { exposures } from "../core/access/exposure";
import { buildEstate } from "../core/estate/estate";
import { readEstateFile } from "../core/estate/estateFile";
import { generateEstate } from "./generate";
import { bySql } from "./sqlite";

describe.each([1, 2, 3])("a generated estate, seed %s", (seed) => {
  const records = [...generateEstate(3_000, seed)];
  const estate = buildEstate(records);

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

  /** SQLite as an oracle: a recursive query over the same shares, which throws where the answers differ. */
  test("is answered by SQLite as by the engine, item by item", () => {
    expect(bySql(records, estate, exposures(estate, estate.asOf))).toBeGreaterThan(0);
  });

  test("a wrong answer would be noticed", () => {
    const wrong = exposures(estate, estate.asOf);
    const most = Array.from(wrong.stateAt.keys()).find((at) => wrong.at(at)!.outsiders > wrong.at(100)!.outsiders)!;
    wrong.stateAt[100] = wrong.stateAt[most];
    expect(() => bySql(records, estate, wrong)).toThrow("SQLite and the engine differ");
  });
});
