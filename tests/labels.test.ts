import { labelsHandlers } from "@/server/labels/handlers";
import { actorOf } from "./actor";
import { type House, ONE_OF_EACH, openHouse } from "./house";

const ASKED = { params: {}, query: undefined, past: undefined, file: undefined, network: "" };
const actor = actorOf("ada@home.example");
let house: House;

beforeAll(async () => {
  house = await openHouse(ONE_OF_EACH);
});
afterAll(() => house.close());

const look = (body: Parameters<typeof labelsHandlers.lookAtLabels>[1]["body"]) =>
  labelsHandlers.lookAtLabels(house.app, { ...ASKED, actor, body });
const waysTo = async (past?: number) => {
  const ways = await house.app.engine.ask("waysIn", { item: "f" }, past);
  return ways?.kind === "item" ? [ways.item.label, ways.labelFrom] : null;
};
const RULE = { label: "restricted", on: "name", of: "rider*" } as const;

test("a rule is previewed, saved as it was shown, tells itself at the item, holds from then on, and ends again", async () => {
  expect(await waysTo()).toEqual(["confidential", "from the store on Touring, which it is in"]);
  const outlook = await look({ rule: RULE });
  expect(outlook).toMatchObject({ count: 1, turns: [{ from: "confidential", to: "restricted", count: 1 }] });
  // Nothing has changed by that.
  expect((await waysTo())![0]).toBe("confidential");
  const set = (count: number) =>
    labelsHandlers.setLabelRule(house.app, { ...ASKED, actor, body: { rule: RULE, count } });
  await expect(set(2)).rejects.toThrow("Something has changed since this was shown. Preview it again.");
  await house.later(1);
  await set(1);
  expect(await waysTo()).toEqual(["restricted", "set here for names like rider*"]);
  expect((await waysTo(house.app.clock.seconds() - 3_600))![0]).toBe("confidential");
  const { rules } = await labelsHandlers.labelRules(house.app, { ...ASKED, actor, body: undefined });
  expect(rules).toMatchObject([{ ...RULE, words: "rider*", setBy: "ada@home.example" }]);
  const body = { id: rules[0].id, count: (await look({ ends: rules[0].id })).count };
  await labelsHandlers.endLabelRule(house.app, { ...ASKED, actor, body });
  expect((await waysTo())![0]).toBe("confidential");
});

test("a rule for nothing that is known, or for every name, is refused in words", async () => {
  await expect(look({ rule: { label: "public", on: "place", of: "nowhere" } })).rejects.toThrow("No item is known");
  await expect(look({ rule: { label: "public", on: "store", of: "nowhere" } })).rejects.toThrow("No such store");
  await expect(look({ rule: { label: "public", on: "name", of: "**" } })).rejects.toThrow("labels everything");
});
