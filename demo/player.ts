import type { Seconds } from "../core/time/instant";
import type { App } from "../server/app";
import { sendToWitnesses } from "../server/evidence";
import type { Clock } from "../server/platform/clock";
import { makeDueCheckpoints } from "../server/records/ledger/checkpoints";

type Act = () => Promise<unknown>;

/** Has people of the demo do things, in the order of time: the ledger is in that order too. */
export class Player {
  private readonly acts: [at: Seconds, act: Act][] = [];
  readonly now: Seconds;

  constructor(
    readonly app: App,
    private readonly clock: Clock,
  ) {
    this.now = app.clock.seconds();
  }

  /** Something that somebody does at a time. */
  plan(at: Seconds, act: Act) {
    this.acts.push([at, act]);
  }

  at(seconds: Seconds) {
    this.clock.standsAt = new Date(seconds * 1_000);
  }

  /** Plays all that is planned, and what that plans; afterwards the clock stands where it stood. */
  async play(): Promise<void> {
    const standing = this.clock.standsAt;
    while (this.acts.length > 0) {
      this.acts.sort(([a], [b]) => a - b);
      const [at, act] = this.acts.shift()!;
      this.at(at);
      await act();
      await makeDueCheckpoints(this.app);
      await sendToWitnesses(this.app);
    }
    this.clock.standsAt = standing;
  }
}
