import fc, { type Arbitrary } from "fast-check";

/** The parts of JSON Schema that the contract's bodies come to. */
export interface Schema {
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  additionalProperties?: Schema | boolean;
  items?: Schema;
  minItems?: number;
  minimum?: number;
  maximum?: number;
  format?: string;
  $ref?: string;
  $defs?: Record<string, Schema>;
}

/** What looks right and isn't quite, or is nearly something else. */
const TEXTS = [
  ...["", " ", "x", "l", "n", "f", "a", "ada@home.example", "out@quay.example", "home.example", "stacks"],
  ...["2026-12-01T17:00:00Z", "2026-13-01T17:00:00Z", "0000-00-00T00:00:00Z", "q=reach:open", "reach:", "(((", '"'],
  ...[
    "open-expiry",
    "\u202e",
    "a\nb",
    "\u0000",
    "=1+1",
    "<script>alert(1)</script>",
    "../../etc/passwd",
    "%00",
    "null",
  ],
  ...["'; drop table ledger; --", "__proto__", "constructor", "é".repeat(400), "9".repeat(400)],
];
const text = fc.oneof(fc.constantFrom(...TEXTS), fc.string({ unit: "binary", maxLength: 30 }));
/** Keys that mean something to JavaScript itself are among those of any value. */
const junk = fc.oneof(
  fc.jsonValue({ maxDepth: 3 }),
  text,
  fc.constantFrom<unknown>(null, -1, 1e308, 0.1, 2 ** 53, [], {}, [[]], { __proto__: null }, { constructor: {} }),
);

/** Values that meet a schema, as far as it says what meets it, and here and there one that doesn't. */
export function fromSchema(schema: Schema, root: Schema = schema, depth = 0): Arbitrary<unknown> {
  const right = rightOf(schema, root, depth);
  return fc.oneof({ weight: 14, arbitrary: right }, { weight: 1, arbitrary: junk });
}

function rightOf(schema: Schema, root: Schema, depth: number): Arbitrary<unknown> {
  const deeper = (one: Schema) => fromSchema(one, root, depth + 1);
  if (schema.$ref) return deeper(root.$defs![schema.$ref.split("/").at(-1)!]);
  if ("const" in schema) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return fc.oneof(...choices.map(deeper));
  if (schema.allOf) return fc.tuple(...schema.allOf.map(deeper)).map((parts) => Object.assign({}, ...parts));
  const [type] = [schema.type ?? []].flat();
  switch (type) {
    case "string":
      return text;
    case "integer":
      return fc.integer({
        min: within(schema.minimum, -9),
        max: Math.max(within(schema.maximum, 99), within(schema.minimum, -9)),
      });
    case "number":
      return fc.double({ min: schema.minimum, max: schema.maximum, noNaN: true });
    case "boolean":
      return fc.boolean();
    case "null":
      return fc.constant(null);
    case "array":
      return fc.array(schema.items ? deeper(schema.items) : junk, { minLength: schema.minItems ?? 0, maxLength: 4 });
    case "object":
      return objectOf(schema, deeper);
    default:
      return junk;
  }
}

const within = (bound: number | undefined, otherwise: number) =>
  bound === undefined || Math.abs(bound) > 2 ** 31 ? otherwise : bound;

function objectOf(
  { properties = {}, required = [], additionalProperties }: Schema,
  deeper: (one: Schema) => Arbitrary<unknown>,
) {
  const known = Object.fromEntries(Object.entries(properties).map(([name, one]) => [name, deeper(one)]));
  const own = fc.record(known, { requiredKeys: required.filter((name) => name in known) });
  if (typeof additionalProperties !== "object") return own;
  return fc.dictionary(text, deeper(additionalProperties), { maxKeys: 3 });
}
