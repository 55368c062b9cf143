import { setTimeout } from "node:timers/promises";
import { readAhead } from "./readAhead";

async function* pieces(made: string[], of: number, failsAt?: number) {
  try {
    for (let n = 0; n < of; n++) {
      if (n === failsAt) throw new Error(`no piece ${n}`);
      made.push(`made ${n}`);
      yield n;
    }
  } finally {
    made.push("over");
  }
}

test("all pieces come in their order, each made while the one before is used, and none sooner", async () => {
  const told: string[] = [];
  for await (const n of readAhead(pieces(told, 4))) {
    await setTimeout(1);
    told.push(`used ${n}`);
  }
  expect(told).toEqual(["made 0", "made 1", "used 0", "made 2", "used 1", "made 3", "used 2", "over", "used 3"]);
});

test("a piece that can't be made is told when its turn comes", async () => {
  const told: string[] = [];
  const all = async () => {
    for await (const n of readAhead(pieces(told, 4, 2))) {
      await setTimeout(1);
      told.push(`used ${n}`);
    }
  };
  await expect(all()).rejects.toThrow("no piece 2");
  expect(told.filter((one) => one.startsWith("used"))).toEqual(["used 0", "used 1"]);
});

test("whoever stops early ends the making too", async () => {
  const told: string[] = [];
  for await (const _ of readAhead(pieces(told, 1_000))) break;
  expect(told.at(-1)).toBe("over");
  expect(told.length).toBeLessThan(4);
});
