import type { Seconds } from "@/core/time/instant";
import type { Clock } from "../platform/clock";
import type { Db } from "../platform/db/open";
import type { AnswersTo } from "./client";
import type { Begun } from "./begun";
import { Engine } from "./engine";
import type { Answered, Asked, EstateQuestion } from "./questions";
import type { Keeping } from "./snapshot";
import { currentSource, type Decided, pastSource } from "./source";

/**
 * Answers about a few instants in the room that one of them takes, in the thread that asks: for who asks about them one
 * after the other, the latest first. An earlier one is gone back to from there; for a later one it begins anew.
 */
export class OneInstant implements AnswersTo<EstateQuestion> {
  private held: { t: Seconds; engine: Engine } | undefined;

  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
    private readonly columns: Keeping,
    private readonly decided: Decided,
  ) {}

  async ask<Q extends EstateQuestion>(name: Q, asked: Asked<Q>, past = this.clock.seconds()): Promise<Answered<Q>> {
    const engine = await this.at(past);
    return engine[name as "refresh"](asked as never, past) as Promise<Answered<Q>>;
  }

  /** Lets go of all that it knows. */
  forget() {
    this.held = undefined;
  }

  /** The engine of an instant. */
  async at(t: Seconds): Promise<Engine> {
    if (this.held?.t === t) return this.held.engine;
    const engine = new Engine(pastSource(this.db, this.decided, await this.broughtTo(t)));
    await engine.start();
    this.held = { t, engine };
    return engine;
  }

  /** What the engine of a later instant knows. It is not asked again, so that its own estate is what goes back. */
  private async broughtTo(t: Seconds): Promise<Begun> {
    const later = this.held && this.held.t > t ? this.held.engine : await this.present();
    const begun = await later.begun(t);
    this.forget();
    begun.estate.goBackTo(t);
    return begun;
  }

  private async present(): Promise<Engine> {
    this.forget();
    const present = new Engine(currentSource(this.db, this.columns, this.decided));
    await present.start();
    return present;
  }
}
