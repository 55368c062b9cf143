import Ajv2020 from "ajv/dist/2020";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { recordSchemas } from "@/core/estate/records";

const path = join(__dirname, "../docs/estate-file.schema.json");
const [first, second, ...rest] = Object.values(recordSchemas);
const schema = {
  title: "One line of an estate file, version 1",
  ...z.toJSONSchema(z.union([first, second, ...rest]), { io: "input" }),
};

/** `UPDATE_SCHEMA=1 npx jest tests/schema` writes the document anew. */
if (process.env.UPDATE_SCHEMA) writeFileSync(path, JSON.stringify(schema, null, 2) + "\n");

test("the published JSON Schema is what the reader holds to", () => {
  expect(JSON.parse(readFileSync(path, "utf8"))).toEqual(JSON.parse(JSON.stringify(schema)));
});

test("an independent validator takes every line of the conformance estates by it, and refuses bad ones", () => {
  const published = JSON.parse(readFileSync(path, "utf8"));
  const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(published);
  const lines = readFileSync(join(__dirname, "conformance/2.estate.jsonl"), "utf8").split("\n").filter(Boolean);
  for (const line of lines) expect([line, validate(JSON.parse(line))]).toEqual([line, true]);
  expect(validate({ type: "party", domain: "x.example", stance: "loved" })).toBe(false);
  expect(validate({ ...JSON.parse(lines.find((line) => line.includes('"link"'))!), reach: "wide" })).toBe(false);
});
