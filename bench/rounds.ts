import { setTimeout } from "node:timers/promises";
import type { RoundAsked } from "../core/rounds/round";
import { timed } from "./timing";

interface Asking {
  /** Asks for an address of the application. */
  ask: (path: string) => Promise<unknown>;
  /** Sends something to one. */
  send: (path: string, body: unknown) => Promise<unknown>;
  askRegister: (run: number) => Promise<unknown>;
  add: (what: string, value: number, wanted: number | null) => void;
  now: string;
  /** Who asks: an insider of the generated estate. */
  person: string;
}

interface Told {
  state: string;
  lines: number;
  deciders: number;
  counts: Record<string, number>;
  docketId: string | null;
}

const RUNS = 10;
const LOOK_EVERY_MS = 200;
const READS_MS = 100;
/** About ten thousand shares of the generated estate. */
const TEN_THOUSAND = "label:restricted reach:open";

/** Rounds through the routes of the running application: opened over everything, looked at, decided, closed. */
export async function measureRounds({ ask, send, askRegister, add, now, person }: Asking) {
  const begin = async (query: string, more: Partial<RoundAsked> = {}) => {
    const { id } = (await send("/api/rounds", {
      ...STANDARD,
      query,
      opens: now,
      closes: inDays(now, 14),
      ...more,
    })) as {
      id: number;
    };
    return `/api/rounds/one/${id}`;
  };
  const forecast = { query: "", order: STANDARD.order, named: null };
  add(
    "rounds: what one over everything would be",
    (await timed(5, () => send("/api/rounds/forecast", forecast), 1)).median,
    null,
  );

  const alone = await timed(100, askRegister, 0);
  const began = performance.now();
  const all = await begin("");
  const meanwhile = await whileIt(ask, all, askRegister);
  const { lines, deciders } = (await ask(all)) as Told;
  add(`rounds: ${lines} lines of ${deciders} deciders opened`, performance.now() - began, 20_000);
  add("rounds: the register through the route meanwhile, p95", meanwhile, 2 * alone.p95);
  add("rounds: progress by decider", (await timed(RUNS, () => ask(`${all}/deciders`), 1)).median, 50);
  add("rounds: the round’s page", (await timed(RUNS, () => ask(all), 1)).median, null);
  add("rounds: the list", (await timed(RUNS, () => ask("/api/rounds"), 1)).median, null);
  await send(`${all}/stop`, {});

  const mine = await begin(TEN_THOUSAND, { order: ["named"], named: person, undecided: "end" });
  await whileIt(ask, mine, askRegister);
  const round = Number(mine.split("/").at(-1));
  const page = await timed(RUNS, () => send("/api/my-shares/page", { round, dates: {} }), 1);
  add("rounds: a decider’s page of 500 lines through the route", page.median, 200);
  const closing = performance.now();
  await send(`${mine}/close`, {});
  const closed = (await ask(mine)) as Told;
  add(`rounds: a close that ends ${closed.counts.lapsed} shares by one docket`, performance.now() - closing, null);
  if (closed.docketId === null) throw new Error("the close opened no docket");
}

/** @returns the register's p95 while a round is being opened */
async function whileIt(ask: Asking["ask"], round: string, askRegister: Asking["askRegister"]): Promise<number> {
  const times: number[] = [];
  let looked = performance.now();
  for (let run = 0; ; run++) {
    const began = performance.now();
    await askRegister(run % 100);
    times.push(performance.now() - began);
    // Whoever goes through the register reads what it shows.
    await setTimeout(READS_MS);
    if (performance.now() - looked < LOOK_EVERY_MS) continue;
    looked = performance.now();
    if (((await ask(round)) as Told).state === "open") break;
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)];
}

const STANDARD: Pick<RoundAsked, Exclude<keyof RoundAsked, "query" | "opens" | "closes">> = {
  ...{ name: "A round of the bench", note: "", order: ["manager", "owner", "maker"], named: null, by: "share" },
  ...{ limitDays: 180, undecided: "stay", undecidedDays: 30, carriedOut: "closed", tellManagers: false },
  ...{ repeat: null, zone: "UTC" },
};

function inDays(now: string, days: number): string {
  return new Date(Date.parse(now) + days * 86_400_000).toISOString().replace(".000Z", "Z");
}
