import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import { type Label, LABELS, type Stance } from "../estate/records";
import type { Share } from "../estate/share";
import { type Tree, worstLabel } from "../estate/tree";
import type { DayWords } from "../text/words";
import type { Seconds } from "../time/instant";

/** What rules often need to know about a share at one instant, worked out once. */
export class Judged {
  private worstFound: Label | null | undefined;

  constructor(
    private readonly tree: Tree,
    readonly share: Share,
    readonly live: boolean,
    readonly outside: boolean,
  ) {}

  /** The most sensitive label among all that it reaches; null where it reaches nothing live. */
  get worst(): Label | null {
    if (this.worstFound === undefined) {
      const { position } = this.share;
      this.worstFound = LABELS[worstLabel(this.tree, position, this.tree.end[position])] ?? null;
    }
    return this.worstFound;
  }

  get outsiders(): Int32Array {
    return this.share.outsiders;
  }
}

/** The estate at the instant that is judged, with what is worked out once for all shares that are judged together. */
export interface Moment {
  readonly estate: Estate;
  readonly t: Seconds;
  /** How days are written for whoever reads the reasons. */
  readonly dayWords: DayWords;
  /** The house's stance on somebody's organisation. */
  stanceOf(person: Person): Stance | undefined;
  /** The domain, our own or a partner's, that an organisation imitates. */
  lookedLike(organisation: string): string | undefined;
  /** How many live links have the password that a mark stands for. */
  linksWithPassword(mark: number): number;
}

export interface Judging {
  readonly moment: Moment;
  readonly shares: Judged[];
}

export function isOpenLink({ share, live }: Judged): boolean {
  return live && share.audience === "open";
}

export function isIntakeLink({ share, live }: Judged): boolean {
  return live && share.role === "deposit";
}

/** A live outside share for people whom we can name. */
export function isNamedOutside(judged: Judged): boolean {
  return judged.outside && judged.share.audience !== "open";
}
