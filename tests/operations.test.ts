import { z } from "zod";
import { DAY, rfc3339 } from "@/core/time/instant";
import { OPERATIONS } from "@/contract";
import { STANDARD_WEIGHING } from "@/core/advice/weighing";
import { addressOf } from "@/contract/address";
import { ALLOWED, type Operation } from "@/contract/operation";
import { ROLES } from "@/contract/roles";
import { actorOf } from "./actor";
import { T } from "./records";
import { type House, ONE_OF_EACH, openHouse } from "./house";

/** Every operation of the contract, asked by everybody, and answered in the shape that it promises. */
const all = Object.entries(OPERATIONS) as [string, Operation][];
let house: House;

beforeAll(async () => {
  house = await openHouse(ONE_OF_EACH);
}, 60_000);
afterAll(() => house.close());

const as = (role: (typeof ROLES)[number] | null) =>
  (house.app.actorFrom = async () => role && actorOf("ada@home.example", role));
const paramsOf = ({ path }: Operation) =>
  Object.fromEntries([...path.matchAll(/:(\w+)/g)].map(([, name]) => [name, "x"]));

function ask(operation: Operation, given: { query?: object; body?: unknown; params?: object; origin?: string } = {}) {
  const placing = { params: { ...paramsOf(operation), ...given.params }, query: given.query };
  const address = addressOf(operation, placing as never);
  const isForm = operation.sentBy === "form";
  const body = isForm ? new URLSearchParams(given.body as Record<string, string>) : JSON.stringify(given.body ?? {});
  return house.app.fetch(
    new Request(`${house.app.settings.url}${address}`, {
      method: operation.method,
      headers: {
        Origin: given.origin ?? house.app.settings.url,
        ...(!isForm && operation.body && { "Content-Type": "application/json" }),
      },
      ...(operation.body && { body }),
    }),
  );
}

describe.each(all)("%s", (_, operation) => {
  const { may } = operation;

  test("is answered to whoever may ask, and to nobody else", async () => {
    const statuses = new Map<string, number>();
    for (const role of [null, ...ROLES]) {
      as(role);
      const controller = new AbortController();
      const answer = await ask(operation);
      statuses.set(role ?? "nobody", answer.status);
      if (typeof operation.answer === "object" && "events" in operation.answer) await answer.body?.cancel();
      controller.abort();
    }
    const allowed: readonly string[] = may === "anybody" ? ["nobody", ...ROLES] : ALLOWED[may];
    const refused = (status: number) => status === 401 || status === 403;
    for (const [who, status] of statuses) {
      expect([who, status === 500]).toEqual([who, false]);
      if (!allowed.includes(who)) expect([who, status]).toEqual([who, who === "nobody" ? 401 : 403]);
      // Some need more than a sign-in, and say so; those that anybody may ask have proofs of their own.
      else if (may !== "anybody") expect([who, refused(status)]).toEqual([who, false]);
    }
  });

  if (operation.method !== "GET")
    test("changes nothing that is asked from another page", async () => {
      as("administrator");
      const answer = await ask(operation, { origin: "http://elsewhere.example" });
      expect([answer.status, (await answer.json()).error]).toEqual([403, expect.stringContaining("did not come from")]);
    });

  test("can be told to programs: what goes in and what comes out are JSON Schemas", () => {
    for (const taken of [operation.query, operation.body])
      if (taken) expect(z.toJSONSchema(taken, { io: "input" })).toHaveProperty("$schema");
    if (operation.answer === "file") return;
    const given = "events" in operation.answer ? operation.answer.events : operation.answer;
    expect(z.toJSONSchema(given as z.ZodType)).toHaveProperty("$schema");
  });
});

test("no two operations have one address, and each is served by the room that has it", async () => {
  const places = all.map(([, { method, path }]) => `${method} ${path}`);
  expect(new Set(places).size).toBe(places.length);
});

/** What each operation that can be asked here is asked with. */
const EXAMPLES: Partial<Record<keyof typeof OPERATIONS, Parameters<typeof ask>[1]>> = {
  registerPage: { query: { order: "risk", count: 10 } },
  funnel: {},
  facet: { query: { field: "store" } },
  values: { query: { field: "maker", text: "id" } },
  ids: {},
  rows: { body: { ids: ["l"] } },
  notices: { body: { ids: ["l"] } },
  publicList: {},
  lookAtRegister: {},
  setRegister: { body: { start: null } },
  saveQuery: { body: { name: "Open", view: "q=reach:open", forAll: true } },
  savedQueries: {},
  history: { query: { days: 3 } },
  share: { params: { id: "l" } },
  showAddress: { params: { id: "l" } },
  leaveNote: { params: { id: "l" }, body: { text: "Asked about" } },
  waysIn: { query: { item: "f" } },
  find: { query: { text: "rider" } },
  cheapestCut: { query: { item: "f", person: "out@quay.example" } },
  events: {},
  eventGroups: {},
  eventCounts: {},
  eventFacets: {},
  addShipped: { body: { zone: "UTC" } },
  watches: {},
  alerts: {},
  rules: {},
  tryRule: { body: { rule: "open-expiry", parameters: {} } },
  ruleHistory: { params: { id: "open-expiry" } },
  giveWaivers: { body: { shareIds: ["l"], rules: null, reason: "For the press", until: rfc3339(T + 30 * DAY) } },
  waivers: {},
  stage: { body: { changes: [{ action: "revoke", shareId: "l" }] } },
  tray: {},
  dockets: {},
  orders: {},
  approval: {},
  setApproval: { body: { above: 5, insiders: false } },
  entries: {},
  proof: {},
  checkpoints: {},
  packs: {},
  makePack: { body: { from: rfc3339(T - DAY).slice(0, 10), to: rfc3339(T).slice(0, 10) } },
  stopPack: { body: {} },
  report: { query: { kind: "state", day: rfc3339(T).slice(0, 10) } },
  schedules: {},
  addSchedule: { body: { kind: "state", every: "month", to: "ida@home.example" } },
  removeSchedule: { body: { id: 1 } },
  addWitness: { body: { kind: "log", to: "" } },
  removeWitness: { body: { id: 1 } },
  changeLedgerKey: { body: {} },
  stores: {},
  readNow: {},
  home: {},
  channels: {},
  lookAtDesk: {},
  curve: { query: { scope: "label:confidential" } },
  curvePoint: { query: { changes: 5 } },
  pointLines: { query: { changes: 5, group: "end-open" } },
  pointTouches: { query: { changes: 5 } },
  whereToStart: {},
  weighing: {},
  setWeighing: { body: STANDARD_WEIGHING },
  people: {},
  rounds: {},
  standIns: {},
  organisations: {},
  organisation: { query: { domain: "quay.example" } },
  lookAlikes: {},
  leavers: {},
  sources: {},
  listNow: {},
  stopList: { body: {} },
  insiders: {},
  person: { query: { address: "out@quay.example" } },
  lookAtList: {
    body: { directory: "personnel", kind: "people", file: "people.csv", text: "address\nida@home.example\n" },
  },
  engagements: {},
  setLastDay: { body: { address: "ida@home.example", day: rfc3339(T + DAY), reason: "By mail" } },
  leaver: { query: { address: "ida@home.example" } },
  setStance: { body: { domain: "quay.example", stance: "denied", reason: "A rival", until: null } },
  saySame: { body: { domains: ["quay.example", "quays.example"], isSame: true } },
  forecastRound: { body: { query: "reach:open", order: ["owner", "maker"], named: null } },
  myRounds: {},
  myDeputies: {},
};

test.each(Object.entries(EXAMPLES))("what %s answers is what it promises, no more and no less", async (name, given) => {
  as("administrator");
  const operation: Operation = OPERATIONS[name as keyof typeof OPERATIONS];
  const answer = await ask(operation, given);
  const body = await answer.json();
  expect([name, answer.status, answer.status === 200 ? "" : body]).toEqual([name, 200, ""]);
  expect((operation.answer as z.ZodType).parse(body)).toEqual(body);
});

test("nothing that can be read tells the address of a link; asking for it is put down in the ledger", async () => {
  as("administrator");
  const reads = Object.entries(EXAMPLES).filter(([name]) => OPERATIONS[name as keyof typeof OPERATIONS].may === "read");
  const told = [];
  for (const [name, given] of reads) {
    const text = await (await ask(OPERATIONS[name as keyof typeof OPERATIONS], given)).text();
    if (text.includes("7Qk1lI0O")) told.push(name);
  }
  expect([reads.length > 20, told]).toEqual([true, []]);
  const answer = await (await ask(OPERATIONS.showAddress, { params: { id: "l" } })).json();
  expect(answer).toEqual({ address: expect.stringMatching(/^http:.*\/7Qk1lI0O$/) });
  const { entries } = await (await ask(OPERATIONS.entries)).json();
  expect(entries[0]).toMatchObject({ kind: "address-shown", actor: "ada@home.example", body: { shareId: "l" } });
  expect((await ask(OPERATIONS.showAddress, { params: { id: "n" } })).status).toBe(404);
});

test("a project is what it promises, once it is made", async () => {
  as("administrator");
  const body = {
    ...{ name: "The tour", itemIds: ["f"], organisations: ["quay.example"], responsible: "ida@home.example" },
    ...{ starts: rfc3339(T), ends: rfc3339(T + 30 * DAY) },
  };
  const { id } = await (await ask(OPERATIONS.makeEngagement, { body })).json();
  const answer = await (await ask(OPERATIONS.engagement, { query: { id } })).json();
  expect(OPERATIONS.engagement.answer.parse(answer)).toEqual(answer);
  expect(answer).toMatchObject({ engagement: { shares: 2 }, kept: { responsible: "ida@home.example" } });
});

test("a round is what it promises: to whoever makes it, to whoever decides by mail, and to whoever signs in", async () => {
  as("administrator");
  const promised = async (name: keyof typeof OPERATIONS, given: Parameters<typeof ask>[1]) => {
    const operation: Operation = OPERATIONS[name];
    const answer = await ask(operation, given);
    const body = await answer.json();
    expect([name, answer.status, answer.status === 200 ? "" : body]).toEqual([name, 200, ""]);
    expect((operation.answer as z.ZodType).parse(body)).toEqual(body);
    return body;
  };
  const round = {
    ...{ name: "Open links", note: "", query: "reach:open,named", order: ["owner"], named: null, by: "share" },
    ...{ opens: rfc3339(T), closes: rfc3339(T + 9 * DAY), limitDays: 180, undecided: "stay", undecidedDays: 30 },
    ...{ carriedOut: "finished", tellManagers: false, repeat: null, zone: "UTC" },
  };
  const { id } = await promised("makeRound", { body: round });
  await house.tick();
  const params = { id: String(id) };
  for (const name of ["round", "deciders", "roundLines"] as const) await promised(name, { params });
  await promised("remindRound", { params, body: { people: null } });
  const [mail] = house.mails.filter(({ text }) => text!.includes("/decide#"));
  const token = mail.text!.match(/decide#([\w.-]+)/)![1];
  const page = await promised("letter.page", { body: { token, dates: {} } });
  const lines = page.lines.map(({ shareId, asked }: { shareId: string; asked: string }) => ({ shareId, asked }));
  const until = rfc3339(T + 30 * DAY);
  const keep = { decision: "keep", until, reason: "For the press" };
  expect(await promised("letter.decide", { body: { token, lines, decision: keep } })).toEqual({ decided: 2, not: [] });
  const { digest } = await promised("letter.finishing", { body: { token } });
  await promised("letter.passOn", { body: { token, shares: ["l"], to: "ivo@home.example", reason: "Theirs" } });
  expect((await ask(OPERATIONS["letter.finish"], { body: { token, digest } })).status).toBe(409);
  const { id: look } = await promised("drawLook", { params, body: { percent: 50, confidence: 900 } });
  await promised("lookLines", { params: { id: String(look) } });
  house.app.actorFrom = async () => actorOf("ida@home.example", "owner");
  expect(await promised("myRounds", {})).toMatchObject([{ round: id, lines: 1 }]);
  await promised("my.page", { body: { round: id, dates: {} } });
  await promised("my.finishing", { body: { round: id } });
  // Somebody else's lines are out of reach, whatever the body says.
  house.app.actorFrom = async () => actorOf("ada@home.example", "owner");
  expect((await ask(OPERATIONS["my.page"], { body: { round: id, dates: {} } })).status).toBe(404);
  expect((await ask(OPERATIONS["letter.page"], { body: { token: `${token}x`, dates: {} } })).status).toBe(410);
});

test("a docket, as it is looked at, is what it promises", async () => {
  as("administrator");
  const { docketId } = await (await ask(OPERATIONS.tray)).json();
  const body = await (await ask(OPERATIONS.docket, { params: { id: docketId } })).json();
  expect(OPERATIONS.docket.answer.parse(body)).toEqual(body);
  const notices = await (await ask(OPERATIONS.docketNotices, { params: { id: docketId } })).json();
  expect(OPERATIONS.docketNotices.answer.parse(notices)).toEqual(notices);
});
