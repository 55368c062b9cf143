import { runningSeconds } from "./clock";
import { Problem } from "./problem";

const WINDOW_S = 60;

/** Limits how often somebody can be wrong in a minute, whoever they are: right ones are never counted. */
export class WrongTries {
  private from = 0;
  private count = 0;

  constructor(private readonly most: number) {}

  /** @throws {Problem} where there have been too many within the minute */
  check() {
    if (runningSeconds() - this.from >= WINDOW_S) this.count = 0;
    if (this.count >= this.most) throw new Problem("too-many", "Too many wrong addresses were tried. Wait a minute.");
  }

  add() {
    if (runningSeconds() - this.from >= WINDOW_S) this.from = runningSeconds();
    this.count++;
  }
}
