import type { Estate } from "../estate/estate";
import { KINDS, LABELS, STANCES } from "../estate/records";
import { SHARE_ROLES } from "../estate/shares";
import type { NumberSets } from "../register/numberSets";
import type { Register } from "../register/register";
import { DOWNLOADS, PASSWORDS, STATES, WAYS } from "../register/wayAndState";
import { RULE_IDS } from "../rules/list";
import { LATCHES } from "../changes/latches";
import { LEVELS } from "../rules/risk";
import { fold } from "../text/text";
import { type ChoiceName, type CodedName, listedValues, NONE } from "./fields";
import type { Value } from "./query";

/** A value that shares can have: how a query writes it, how people read it, and what else it goes by. */
export interface Choice {
  value: string;
  title: string;
  also?: string;
}

/**
 * Where a field's values stand, of each share or of each profile: one code, a bit for each value, or the number of
 * a set of values. `choices` are the values by code, by bit, or by member; a code without one is no value.
 */
export type Coded = { ofProfile: boolean } & (
  | { kind: "codes"; column: Uint32Array; count: number; choices: readonly (Choice | undefined)[] }
  | { kind: "bits"; column: Uint32Array; choices: readonly Choice[] }
  | {
      kind: "sets";
      column: Uint32Array;
      count: number;
      members: (set: number) => readonly number[];
      choices: readonly Choice[];
    }
);

const plain = (values: readonly string[]): Choice[] => values.map((value) => ({ value, title: value }));

/** The values of every field that stands in a column. */
function codedOf(register: Register, field: CodedName): Coded {
  const { estate } = register;
  const { columns } = register.profiles;
  const codes = (column: Uint32Array, choices: readonly (Choice | undefined)[], ofProfile = true): Coded => {
    // What has no value has a code behind the last one, or one without a choice.
    return { ofProfile, kind: "codes", column, count: choices.length + 1, choices };
  };
  const bits = (column: Uint32Array, values: readonly string[]): Coded => {
    return { ofProfile: true, kind: "bits", column, choices: plain(values) };
  };
  switch (field) {
    case "store":
      return codes(
        columns.store,
        register.storeIds.all().map((id) => storeChoice(register, id)),
      );
    case "reach":
      return codes(columns.way, plain(WAYS));
    case "role":
      return codes(columns.role, plain(SHARE_ROLES));
    case "label":
      return codes(columns.label, plain(LABELS));
    case "risk":
      return codes(columns.risk, plain(LEVELS));
    case "outside":
      return codes(columns.outside, plain(["no", "yes"]));
    case "state":
      return codes(columns.state, plain(STATES));
    case "kind":
      return codes(columns.kind, plain(KINDS));
    case "password":
      return codes(columns.password, plain(PASSWORDS));
    case "download":
      return codes(columns.download, plain(DOWNLOADS));
    case "department":
      return codes(
        register.department,
        register.departments.all().map((name) => (name === "" ? undefined : { value: name, title: name })),
        false,
      );
    case "maker":
      return codes(register.maker, peopleIn(estate), false);
    case "owner":
      return codes(ownersIn(register), peopleIn(estate), false);
    case "rule":
      return bits(columns.rules, RULE_IDS);
    case "waived":
      return bits(columns.waived, RULE_IDS);
    case "latch":
      return bits(columns.latches, LATCHES);
    case "party":
      return bits(columns.stances, STANCES);
    case "organisation":
      return sets(false, register.organisations, register.organisationSets, plain(estate.principals.organisations));
    case "engagement":
      return sets(
        true,
        columns.engagements,
        register.engagementSets,
        plain(estate.engagements.map(({ record }) => record.name)),
      );
  }
}

/** Each person behind the code for nobody. */
function peopleIn({ people }: Estate): (Choice | undefined)[] {
  return [undefined, ...people.map(({ name, address }) => ({ value: address, title: name, also: name }))];
}

/** By slot, one more than the index of the person who owns its item; 0 where nobody does. */
function ownersIn({ estate, length, knownSlots }: Register): Uint32Array {
  const owners = new Uint32Array(length);
  for (const slot of knownSlots) owners[slot] = estate.ownerAt(estate.shares.position[slot]) + 1;
  return owners;
}

function storeChoice({ estate }: Register, id: string): Choice {
  const name = estate.stores.get(id)?.name ?? id;
  return { value: name, title: name, also: id };
}

function sets(ofProfile: boolean, column: Uint32Array, numbered: NumberSets, choices: Choice[]): Coded {
  return { ofProfile, kind: "sets", column, count: numbered.count, members: (set) => numbered.get(set), choices };
}

/** The values of fields, each worked out once for as long as the register stays as it is. */
export class Choices {
  private version = -1;
  private readonly known = new Map<string, Coded>();
  private readonly folded = new Map<string, readonly string[]>();

  constructor(private readonly register: Register) {}

  coded(field: CodedName): Coded {
    this.keepUp();
    let coded = this.known.get(field);
    if (!coded) this.known.set(field, (coded = codedOf(this.register, field)));
    return coded;
  }

  /** By code, bit or member: 1 where the choice is one of those asked for; for `for`, by person. */
  asked(field: CodedName | "for", asked: readonly Value[]): Uint8Array {
    const texts = this.texts(field);
    const flags = new Uint8Array(texts.length);
    for (const { text, exact } of asked) {
      const wanted = exact ? `\n${fold(text)}\n` : fold(text);
      for (let i = 0; i < flags.length; i++) if (texts[i].includes(wanted)) flags[i] = 1;
    }
    return flags;
  }

  /** What each choice goes by, folded, with a line end round each of them; nothing where there is no choice. */
  private texts(field: CodedName | "for"): readonly string[] {
    this.keepUp();
    let texts = this.folded.get(field);
    if (!texts) {
      const people = () => this.register.estate.people.map(({ address }) => ({ value: address, also: undefined }));
      const choices = field === "for" ? people() : this.coded(field).choices;
      texts = choices.map((one) => (one ? `\n${[one.value, one.also ?? one.value].map(fold).join("\n")}\n` : ""));
      this.folded.set(field, texts);
    }
    return texts;
  }

  private keepUp() {
    if (this.version === this.register.version) return;
    this.version = this.register.version;
    this.known.clear();
    this.folded.clear();
  }
}

export function asksForNone(field: ChoiceName, asked: readonly Value[]): boolean {
  const isListed = listedValues(field) !== undefined;
  return asked.some(({ text, exact }) => text === NONE && (isListed || !exact));
}
