import type { registerOperations } from "@/contract/register";
import type { RegisterLine } from "@/core/query/page";
import { misunderstoodIn } from "@/core/query/parse";
import { publicListCsv } from "@/core/register/publicList";
import { DAY } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { Db } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { may } from "../platform/rights";
import type { Handlers } from "../platform/serving";
import { findsRevoked, withEnders } from "./endings";
import { exportOf } from "./exports";
import { dropQuery, saveQuery, savedQueriesOf } from "./savedQueries";
import { waiversOn } from "../rules";
import { notesOn } from "./remarks";
import { lookedAtRegister, setRegister } from "./settings";

/** How many of a facet's values are shown at once. */
const MOST_VALUES = 50;

export const registerHandlers: Handlers<Asking, typeof registerOperations> = {
  async registerPage({ engine, db }, { query, past }) {
    const answer = await engine.ask("register", query, past);
    return findsRevoked(query.query) ? { ...answer, page: await linesWithEnders(db, answer.page) } : answer;
  },
  funnel: ({ engine }, { query, past }) => engine.ask("funnel", query, past),
  facet: ({ engine }, { query, past }) => engine.ask("facet", { ...query, most: MOST_VALUES }, past),
  values: async ({ engine }, { query, past }) => ({ values: await engine.ask("values", query, past) }),
  async ids({ engine }, { query, past }) {
    const why = misunderstoodIn(query.query);
    if (why) throw new Problem("bad", `Nothing was marked: ${why}.`);
    return { ids: await engine.ask("matching", query, past) };
  },
  rows: async ({ engine, db }, { body, past }) => ({
    rows: await withEnders(db, await engine.ask("rows", body, past)),
  }),
  notices: async ({ engine }, { body }) => ({ notices: await engine.ask("notices", body) }),
  publicList: async ({ engine, db }, { past }) => ({
    shares: await engine.ask("publicList", {}, past),
    notes: await notesOn(db, null, past),
    waivers: await waiversOn(db, null, past),
  }),
  publicTable: async ({ engine, db }, { past }) => ({
    type: "text/csv; charset=utf-8",
    name: "open-to-anyone.csv",
    body: publicListCsv(
      await engine.ask("publicList", {}, past),
      await waiversOn(db, null, past),
      await notesOn(db, null, past),
    ),
  }),
  lookAtRegister: ({ db }, { actor }) => lookedAtRegister(db, actor.email),
  async setRegister({ db }, { actor, body }) {
    await setRegister(db, actor.email, body);
    return {};
  },
  exportRegister: (app, { actor, body, past }) => exportOf(app, actor.email, { ...body, past }),
  savedQueries: async (app, { actor, past }) => ({ queries: await savedQueriesOf(app, actor.email, past) }),
  async saveQuery({ db }, { actor, body }) {
    if (body.forAll && !may(actor, "change"))
      throw new Problem("not-allowed", "Only administrators can save queries for everybody.");
    await saveQuery(db, actor.email, body);
    return {};
  },
  async dropQuery({ db }, { actor, params }) {
    if (!(await dropQuery(db, actor.email, params.id)))
      throw new Problem("unknown", "You have no such query: it may have been deleted in another window.");
    return {};
  },
  async history({ engine, clock }, { query: { days } }) {
    const now = clock.seconds();
    const midnight = Math.floor(now / DAY) * DAY;
    const ends = Array.from({ length: days }, (_, i) => midnight - (days - 1 - i) * DAY);
    const before = engine.ask("history", { instants: ends });
    return [...(await before), await engine.ask("outsideNow", {})];
  },
};

async function linesWithEnders(db: Db, lines: readonly RegisterLine[]): Promise<RegisterLine[]> {
  const rows = await withEnders(
    db,
    lines.flatMap((line) => (line.kind === "share" ? [line.row] : [])),
  );
  return lines.map((line) => (line.kind === "share" ? { ...line, row: rows.shift()! } : line));
}
