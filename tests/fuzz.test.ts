import fc from "fast-check";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { z } from "zod";
import { OPERATIONS } from "@/contract";
import { addressOf } from "@/contract/address";
import type { Operation } from "@/contract/operation";
import { allCarriedOut, haltAll } from "@/server/dockets/executor";
import { actorOf } from "./actor";
import { fromSchema, type Schema } from "./fromSchema";
import { type House, ONE_OF_EACH, openHouse } from "./house";

/** Every operation that takes a body or a query is sent what its schema makes, and here and there what it refuses. */
const TRIES = 200;
/** Of what can be asked in one way only. */
const FEW_TRIES = 5;
const MOST_GROWN_MB = 150;
const all = (Object.entries(OPERATIONS) as [string, Operation][]).filter(([, { body, query }]) => body ?? query);
setFlagsFromString("--expose-gc");
const collect = runInNewContext("gc") as () => void;
let house: House;
let before: number;

jest.setTimeout(120_000);

beforeAll(async () => {
  jest.spyOn(console, "error").mockImplementation(() => undefined);
  house = await openHouse(ONE_OF_EACH);
  house.app.actorFrom = async () => actorOf("ada@home.example");
  before = megabytes();
});
afterAll(async () => {
  await haltAll(house.app);
  await house.close();
});

const megabytes = () => {
  collect();
  return process.memoryUsage().heapUsed / 1_000_000;
};
const schemaOf = (type: z.ZodType | undefined) =>
  type ? fromSchema(z.toJSONSchema(type, { io: "input", unrepresentable: "any" }) as Schema) : fc.constant(undefined);
const queryOf = (value: unknown): Record<string, string> | undefined =>
  typeof value === "object" && value !== null
    ? Object.fromEntries(
        Object.entries(value).flatMap(([name, one]) => {
          const text = typeof one === "string" ? one : JSON.stringify(one);
          return text === undefined ? [] : [[name, text.toWellFormed()]];
        }),
      )
    : undefined;

const isAlwaysSame = ({ body, query, path }: Operation) =>
  !query && !path.includes(":") && body instanceof z.ZodObject && Object.keys(body.shape).length === 0;

async function statusOf(operation: Operation, body: unknown, query: unknown, id: string): Promise<number> {
  const params = Object.fromEntries([...operation.path.matchAll(/:(\w+)/g)].map(([, name]) => [name, id]));
  const address = addressOf(operation, { params, query: queryOf(query) } as never);
  const isForm = operation.sentBy === "form";
  const sent = isForm ? new URLSearchParams(queryOf(body) ?? {}) : (JSON.stringify(body) ?? "");
  const answer = await house.app.fetch(
    new Request(`${house.app.settings.url}${address}`, {
      method: operation.method,
      headers: {
        Origin: house.app.settings.url,
        ...(!isForm && operation.body && { "Content-Type": "application/json" }),
      },
      ...(operation.body && { body: sent }),
    }),
  );
  if (typeof operation.answer === "object" && "events" in operation.answer) await answer.body?.cancel();
  else await answer.text();
  return answer.status;
}

test.each(all)(
  `%s answers ${TRIES} bodies with what they come to, or what is wrong with them`,
  async (_, operation) => {
    const tries = isAlwaysSame(operation) ? FEW_TRIES : TRIES;
    const counts: Record<string, number> = {};
    const ids = fc.constantFrom("l", "f", "n", "open-expiry", "nothing", "%2e%2e", "1");
    await fc.assert(
      fc.asyncProperty(schemaOf(operation.body), schemaOf(operation.query), ids, async (body, query, id) => {
        const status = await statusOf(operation, body, query, id);
        counts[status] = (counts[status] ?? 0) + 1;
        return status < 500;
      }),
      { numRuns: tries, endOnFailure: true },
    );
    await allCarriedOut(house.app);
    expect(Object.values(counts).reduce((sum, one) => sum + one, 0)).toBeGreaterThanOrEqual(tries);
  },
);

test("after all of that memory is what it was", () => {
  expect(megabytes() - before).toBeLessThan(MOST_GROWN_MB);
});
