import { type Items, NO_LABEL } from "./items";
import { type Label, LABELS } from "./records";

/** What an item is labelled by here: all below an item, items by their names, or all of a store. */
export interface LabelRule {
  id: number;
  label: Label;
  on: "place" | "name" | "store";
  /** Id of an item, a pattern of names with `*` and `?`, or id of a store. */
  of: string;
}

/** The label of what has none, and nothing above it has one. */
export const INTERNAL = LABELS.indexOf("internal");

interface Ordered {
  readonly length: number;
  readonly slotAt: Int32Array;
  readonly parent: Int32Array;
}

/** Where an item's label comes from. */
export interface LabelOrigin {
  /** The rule, or null where the store says it, or nobody does. */
  rule: LabelRule | null;
  /** Position of the item that has it itself; -1 where it comes from a rule for a store, or nobody says it. */
  at: number;
}

/**
 * What items are labelled by rules of ours. Nearest is strongest: a rule for an item or its name before one for what it
 * lies in, and that before one for its store; of several for one item the strictest.
 */
export class Labelling {
  private readonly places = new Map<number, LabelRule>();
  private readonly stores = new Map<string, LabelRule>();
  private readonly names: (readonly [RegExp, LabelRule])[];

  constructor(
    readonly rules: readonly LabelRule[],
    private readonly items: Items,
  ) {
    for (const rule of rules) {
      const slot = rule.on === "place" ? items.find(rule.of) : undefined;
      if (slot !== undefined) this.places.set(slot, stricter(this.places.get(slot), rule));
      if (rule.on === "store") this.stores.set(rule.of, stricter(this.stores.get(rule.of), rule));
    }
    this.names = rules.filter(({ on }) => on === "name").map((rule) => [patternOf(rule.of), rule]);
  }

  /** The rule for an item itself. */
  onItem(slot: number): LabelRule | undefined {
    let rule = this.places.get(slot);
    if (this.names.length === 0) return rule;
    const name = this.items.names.get(slot);
    for (const [pattern, one] of this.names) if (pattern.test(name)) rule = stricter(rule, one);
    return rule;
  }

  onStore(slot: number): LabelRule | undefined {
    return this.stores.size === 0 ? undefined : this.stores.get(this.items.storeOf(slot));
  }

  /**
   * Effective labels by position, as indexes into LABELS: what a rule says, unless the store says something stricter;
   * without a rule what the store says, of the item or of the nearest above it; else internal.
   */
  labelsOf({ length, slotAt, parent }: Ordered): Uint8Array {
    const { ownLabel } = this.items;
    const told = new Uint8Array(length);
    for (let position = 0; position < length; position++) {
      const own = ownLabel[slotAt[position]];
      told[position] = own !== NO_LABEL ? own : parent[position] < 0 ? NO_LABEL : told[parent[position]];
    }
    if (this.rules.length === 0) return told.map((label) => (label === NO_LABEL ? INTERNAL : label));
    const given = new Uint8Array(length);
    for (let position = 0; position < length; position++) {
      const slot = slotAt[position];
      const rule = this.onItem(slot) ?? (parent[position] < 0 ? this.onStore(slot) : undefined);
      given[position] = rule ? LABELS.indexOf(rule.label) : parent[position] < 0 ? NO_LABEL : given[parent[position]];
    }
    return told.map((label, position) => effective(given[position], label));
  }

  /** Where the label of the item at a position comes from. */
  originOf({ slotAt, parent }: Ordered, position: number): LabelOrigin {
    const { ownLabel } = this.items;
    let told = position;
    while (told >= 0 && ownLabel[slotAt[told]] === NO_LABEL) told = parent[told];
    let at = position;
    let rule = this.onItem(slotAt[at]);
    for (; rule === undefined && parent[at] >= 0; rule = this.onItem(slotAt[at])) at = parent[at];
    const ofStore = rule === undefined ? this.onStore(slotAt[position]) : undefined;
    const given = rule ?? ofStore;
    if (!given) return { rule: null, at: told };
    const isStricter = told >= 0 && ownLabel[slotAt[told]] > LABELS.indexOf(given.label);
    return isStricter ? { rule: null, at: told } : { rule: given, at: ofStore ? -1 : at };
  }
}

function effective(given: number, told: number): number {
  if (given === NO_LABEL) return told === NO_LABEL ? INTERNAL : told;
  return told === NO_LABEL ? given : Math.max(given, told);
}

function stricter(one: LabelRule | undefined, other: LabelRule): LabelRule {
  return one && LABELS.indexOf(one.label) >= LABELS.indexOf(other.label) ? one : other;
}

/** A pattern of names: `*` stands for anything, `?` for one sign; upper and lower case are the same. */
function patternOf(text: string): RegExp {
  const plain = text.replace(/[.+^${}()|[\]\\]/g, "\\$&");
  return new RegExp(`^${plain.replaceAll("*", ".*").replaceAll("?", ".")}$`, "isu");
}
