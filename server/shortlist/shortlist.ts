import { MOST_LOOKED_THROUGH, MOST_STAGED, type Touched, type UsedBy, type WhereToStart } from "@/contract/shortlist";
import type { Act } from "@/core/advice/candidate";
import { type AdviceScope, EVERYTHING } from "@/core/advice/scope";
import type { ActsOfPoint } from "@/core/advice/view";
import type { Change } from "@/core/changes/change";
import { DAY } from "@/core/time/instant";
import { stage } from "../dockets/tray";
import type { Asking } from "../engine/client";
import type { AdviceQuestions, Answered, Asked } from "../engine/questions";
import { Problem } from "../platform/problem";
import { opennessBefore } from "./openness";
import { weighingSetting } from "./weighing";

const MOST_NAMES = 3;

interface PointAt {
  scope: AdviceScope;
  /** The most changes of the point that the Desk leads with. */
  changes: number;
}

/** Asks the engine, with the weights and prices as they are set. @throws {Problem} where the scope is of nothing here */
export async function askAdvice<Q extends keyof AdviceQuestions>(
  { db, engine }: Asking,
  question: Q,
  asked: Omit<Asked<Q>, "weighing">,
): Promise<NonNullable<Answered<Q>>> {
  const weighing = await weighingSetting(db);
  const answer = await engine.ask(question, { ...asked, weighing } as unknown as Asked<Q>);
  if (answer) return answer;
  const { scope } = asked as { scope: AdviceScope };
  throw new Problem("unknown", `There is no ${scope.of} ${"id" in scope ? `“${scope.id}”` : ""}. Choose another.`);
}

const CHANGES: Record<Act, (shareId: string) => Change> = {
  end: (shareId) => ({ action: "revoke", shareId }),
  password: (shareId) => ({ action: "set-password", shareId }),
};
const changesOf = ({ acts }: ActsOfPoint): Change[] => acts.map(({ share, act }) => CHANGES[act](share));

/**
 * Puts a point's changes into somebody's tray.
 * @param seen the digest of the changes that they were shown
 * @throws {Problem} where the changes are no longer the same, or too many
 */
export async function stagePoint(app: Asking, person: string, { scope, changes }: PointAt, seen: string) {
  const found = await askAdvice(app, "pointActs", { scope, changes });
  if (found.digest !== seen)
    throw new Problem(
      "conflict",
      "The estate has changed since these were worked out, so nothing was staged. They have been worked out again: review them.",
    );
  if (found.acts.length > MOST_STAGED)
    throw new Problem("too-large", `At most ${MOST_STAGED} changes fit in one docket: move the handle back.`);
  if (found.acts.length === 0) return { unknown: [], left: {} };
  return stage(app, person, changesOf(found), `Where to start: ${found.acts.length} changes`);
}

/** Whom the changes of a point touch: who used any of it lately, and who would reach less. */
export async function touchedBy(app: Asking, at: PointAt): Promise<Touched> {
  const found = await askAdvice(app, "pointActs", at);
  const lately = await usedLately(app, found);
  if (found.acts.length > MOST_LOOKED_THROUGH) return { lately, losing: null };
  const preview = await app.engine.ask("preview", { changes: changesOf(found) });
  const losers = preview.people.filter(({ loses }) => loses.count > 0);
  const outsiders = losers.filter(({ insider }) => !insider);
  return {
    lately,
    losing: {
      outsiders: outsiders.length,
      insiders: losers.length - outsiders.length,
      organisations: new Set(outsiders.map(({ organisation }) => organisation)).size,
    },
  };
}

async function usedLately(app: Asking, { acts }: ActsOfPoint) {
  const uses = await usesLately(
    app,
    acts.map(({ share }) => share),
  );
  return {
    people: new Set(uses.flatMap(({ people }) => people.map(({ address }) => address))).size,
    unnamed: uses.filter(({ unnamed }) => unnamed).length,
  };
}

async function usesLately({ db, engine, clock }: Asking, shares: string[]) {
  const { usedDays } = await weighingSetting(db);
  return engine.ask("uses", { shares, from: clock.seconds() - usedDays * DAY });
}

/** Some of the changes of one group, each with who has used its share lately. */
export async function linesAt(app: Asking, asked: Omit<Asked<"pointLines">, "weighing">) {
  const { count, lines } = await askAdvice(app, "pointLines", asked);
  const ids = lines.map(({ row }) => row.id);
  const uses = new Map((await usesLately(app, ids)).map((use) => [use.shareId, use]));
  return { count, lines: lines.map((line) => ({ ...line, usedBy: usedByOf(uses.get(line.row.id)) })) };
}

function usedByOf(use?: Answered<"uses">[number]): UsedBy {
  const names = use?.people.map(({ name }) => name) ?? [];
  return { names: names.slice(0, MOST_NAMES), people: names.length, unnamed: use?.unnamed ?? false };
}

/** What the Desk leads with. */
export async function whereToStart(app: Asking): Promise<WhereToStart> {
  const { mass, points, bend } = await askAdvice(app, "curve", { scope: EVERYTHING });
  const weighing = await weighingSetting(app.db);
  const common = {
    mass,
    usedDays: weighing.usedDays,
    before: await opennessBefore(app.db, weighing, app.clock.seconds()),
  };
  const { changes, left } = points[bend];
  if (changes === 0) return { bend: null, ...common };
  const lately = await usedLately(app, await askAdvice(app, "pointActs", { scope: EVERYTHING, changes }));
  return { bend: { changes, left, lately }, ...common };
}
