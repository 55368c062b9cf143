import { createHash } from "node:crypto";
import { leftByRisk } from "@/core/advice/byRisk";
import { type Choice, choiceSteps } from "@/core/advice/choice";
import { type Effect, effectOf, filesShut } from "@/core/advice/effect";
import { bendOf, frontierSteps } from "@/core/advice/frontier";
import { groupsOf } from "@/core/advice/groups";
import { type ActLine, linesOf } from "@/core/advice/lines";
import { type AdviceScope, printScope, scopeIn } from "@/core/advice/scope";
import { actsOf, massOf, type Shortlist } from "@/core/advice/shortlist";
import type { Steps } from "@/core/time/steps";
import type { ActsOfPoint, Curve, LinesPage, LineView, NamedAct, PointView } from "@/core/advice/view";
import type { Weighing } from "@/core/advice/weighing";
import type { Estate } from "@/core/estate/estate";
import { Share } from "@/core/estate/share";
import { audienceWithin, audienceWords } from "@/core/estate/shareWords";
import { LEVELS } from "@/core/rules/risk";
import type { Register } from "@/core/register/register";
import type { Seconds } from "@/core/time/instant";
import type { Book } from "./book";
import { inPieces } from "./pieces";

/** What there is to do is looked at so long before it is worked out anew: what is counted is counted in days. */
const HOLDS_S = 600;
const SCOPES_HELD = 2;

export interface AdviceAsked {
  weighing: Weighing;
  scope: AdviceScope;
}
/** A point of the frontier, by how many changes it has at most. */
export interface PointAsked extends AdviceAsked {
  changes: number;
}
export interface LinesAsked extends PointAsked {
  /** Null for all groups. */
  group: string | null;
  from: number;
  count: number;
}

/** The frontier of a scope, with what it was found in. */
interface Advice {
  curve: Curve;
  choice: Choice;
  points: readonly Shortlist[];
  effects: Map<Shortlist, Effect>;
}

interface Held {
  at: Seconds;
  advice: Promise<Advice | null>;
}

/**
 * Answers about what to shut first. It takes its time piece by piece, so that other questions are answered in between;
 * where the estate changes meanwhile, it begins again.
 */
export class AdviceBook {
  private readonly held = new Map<string, Held>();
  /** Raised whenever the estate has changed. */
  private generation = 0;

  constructor(
    private readonly estate: Estate,
    private readonly book: Book,
  ) {}

  /** Learns that the estate has changed. */
  forget() {
    this.generation++;
    this.held.clear();
  }

  /** Null where the scope names what isn't here; so with all that follow. */
  async curve(asked: AdviceAsked, t: Seconds): Promise<Curve | null> {
    return (await this.adviceAt(asked, t))?.curve ?? null;
  }

  async point(asked: PointAsked, t: Seconds): Promise<PointView | null> {
    const advice = await this.adviceAt(asked, t);
    if (!advice) return null;
    const { curve, choice, points } = advice;
    const number = pointWith(points, asked.changes);
    const point = points[number];
    const done = choice.candidates.filter((_, at) => point.acts[at] !== null);
    return {
      ...curve.points[number],
      groups: groupsOf(choice, point, effectIn(advice, point)),
      files: filesShut(choice.places, effectIn(advice, point)),
      used: done.filter(({ isUsed }) => isUsed).length,
      running: done.filter(({ isRunning }) => isRunning).length,
      next: this.nextOf(advice, number),
      digest: digestOf(actsOf(this.estate, choice, point)),
    };
  }

  async lines(asked: LinesAsked, t: Seconds): Promise<LinesPage | null> {
    for (;;) {
      const advice = await this.adviceAt(asked, t);
      if (!advice) return null;
      const { generation } = this;
      const { choice, points } = advice;
      const point = points[pointWith(points, asked.changes)];
      const found = linesOf(choice, point, effectIn(advice, point), asked.group);
      const page = found.page(asked.from, asked.count).map((line) => this.told(choice, line));
      const ids = page.map(({ shareId }) => shareId);
      const rows = new Map((await this.book.rows(ids, t)).map((row) => [row.id, row]));
      if (generation !== this.generation) continue;
      return { count: found.count, lines: page.map(({ shareId, ...line }) => ({ row: rows.get(shareId)!, ...line })) };
    }
  }

  async acts(asked: PointAsked, t: Seconds): Promise<ActsOfPoint | null> {
    const advice = await this.adviceAt(asked, t);
    if (!advice) return null;
    const point = advice.points[pointWith(advice.points, asked.changes)];
    const acts = actsOf(this.estate, advice.choice, point);
    return { acts, digest: digestOf(acts) };
  }

  private async adviceAt(asked: AdviceAsked, t: Seconds): Promise<Advice | null> {
    for (;;) {
      const { generation } = this;
      const advice = await this.heldFor(asked, t);
      if (generation === this.generation) return advice;
    }
  }

  private heldFor(asked: AdviceAsked, t: Seconds): Promise<Advice | null> {
    const key = `${printScope(asked.scope)} ${JSON.stringify(asked.weighing)}`;
    const known = this.held.get(key);
    if (known && Math.abs(t - known.at) < HOLDS_S) return known.advice;
    const advice = this.advise(asked, t);
    this.held.delete(key);
    this.held.set(key, { at: t, advice });
    // What failed isn't held: whoever asks next has it tried again.
    advice.catch(() => this.held.delete(key));
    if (this.held.size > SCOPES_HELD) this.held.delete(this.held.keys().next().value!);
    return advice;
  }

  private async advise({ weighing, scope }: AdviceAsked, t: Seconds): Promise<Advice | null> {
    const here = scopeIn(this.estate, scope);
    if (!here) return null;
    const { generation } = this;
    const steps = this.adviceSteps(here, weighing, t, await this.book.at(t));
    return inPieces(steps, () => generation === this.generation);
  }

  private *adviceSteps(
    { title, isMeant }: NonNullable<ReturnType<typeof scopeIn>>,
    weighing: Weighing,
    t: Seconds,
    register: Register,
  ): Steps<Advice> {
    const choice = yield* choiceSteps(this.estate, t, weighing, isMeant);
    const points = yield* frontierSteps(choice);
    const byRisk = yield* leftByRisk(
      choice,
      risksOf(register, choice),
      points.map(({ price }) => price),
    );
    const curve: Curve = {
      title,
      mass: massOf(choice),
      files: choice.places.files.reduce((sum, count) => sum + count, 0),
      points: points.map(({ changes, price, left }, at) => ({ changes, price, left, byRisk: byRisk[at] })),
      bend: bendOf(points),
    };
    return { curve, choice, points, effects: new Map() };
  }

  private nextOf({ choice, points }: Advice, number: number): PointView["next"] {
    const [point, next] = [points[number], points[number + 1]];
    if (!next) return null;
    const first = next.acts.findIndex((act, at) => act !== point.acts[at]);
    const { changes, price, left } = next;
    return { changes, price, left, first: this.named(choice, first, next) };
  }

  private named({ candidates }: Choice, at: number, { acts }: Shortlist): NamedAct {
    const { slot } = candidates[at];
    const { tree, shares } = this.estate;
    return { shareId: shares.idOf(slot), itemName: tree.nameAt(shares.position[slot]), act: acts[at]! };
  }

  private told({ candidates }: Choice, { at, others, ...line }: ActLine): Omit<LineView, "row"> & { shareId: string } {
    const { shares, tree } = this.estate;
    const idOf = (one: number) => shares.idOf(candidates[one].slot);
    const words = (one: number) => {
      const share = new Share(this.estate, candidates[one].slot);
      return `${tree.nameAt(share.position)} (${audienceWithin(audienceWords(this.estate, share))})`;
    };
    return { shareId: idOf(at), ...line, others: others.map((one) => ({ shareId: idOf(one), words: words(one) })) };
  }
}

/** The point with the most changes that are not more than so many. */
function pointWith(points: readonly Shortlist[], most: number): number {
  return points.findLastIndex(({ changes }) => changes <= most);
}

function effectIn({ choice, effects }: Advice, point: Shortlist): Effect {
  const effect = effects.get(point) ?? effectOf(choice, point);
  return effects.set(point, effect).get(point)!;
}

function risksOf(register: Register, { candidates }: Choice): Uint8Array {
  // What has no risk of its own counts as the least.
  return Uint8Array.from(candidates, ({ slot }) => register.fact(slot, "risk") % LEVELS.length);
}

function digestOf(acts: ActsOfPoint["acts"]): string {
  return createHash("sha256").update(JSON.stringify(acts)).digest("hex");
}
