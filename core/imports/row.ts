import { shownName } from "../text/shown";
import { normaliseAddress } from "../estate/address";
import { isMailAddress } from "../estate/mailAddress";
import type { Kind, Label, Role } from "../estate/records";
import type { Seconds } from "../time/instant";
import { dayBegins } from "../time/zoned";
import { readDate } from "./dates";
import { type ChoiceField, DATE_FIELDS, type DateField, type Field, FIELDS, plainText } from "./field";
import type { DateOrder, Mapping, Values } from "./mapping";

/** A share's audience, as a report gives it. */
export type AudienceTold = { person: string } | { group: string } | { reach: "open" | "house" } | { people: string[] };

export interface ItemTold {
  /** The names of the folders above it and its own; null where the report tells no place. */
  path: string[] | null;
  /** The report's own id. */
  id: string | null;
  name: string;
  kind: Kind | null;
  /** Undefined where no column says it. */
  label: Label | null | undefined;
  owner: string | null | undefined;
  inherits: boolean | undefined;
}

export interface ShareTold {
  audience: AudienceTold;
  role: Role | "deposit";
  password: boolean;
  download: boolean;
  ends: Seconds | null;
  lastUsed: Seconds | null;
  madeBy: string | null;
  madeOn: Seconds | null;
  id: string | null;
  url: string | null;
  inherited: boolean;
}

/** What a row says: an item, and who it is shared with, if anybody. */
export interface RowTold {
  item: ItemTold;
  shares: ShareTold[];
}
/** Why a row has no share: it is a total, or repeats the headings. */
export interface RowLeft {
  left: string;
}
export interface RowRefused {
  problem: string;
  /** A text that somebody has to map. */
  unmapped?: { field: ChoiceField; text: string };
}
export type RowRead = RowTold | RowLeft | RowRefused | null;

class Refused extends Error {
  constructor(
    problem: string,
    readonly unmapped?: RowRefused["unmapped"],
  ) {
    super(problem);
  }
}

/** Fields about the item. Where their cells are empty, they repeat the row above. */
const OF_ITEM = new Set<Field>(["path", "parent", "name", "item", "kind", "label", "owner", "inherits"]);
const OF_PLACE = ["path", "parent", "name", "item"] as const satisfies readonly Field[];
const OF_SHARE = ["audience", "means", "role"] as const satisfies readonly Field[];

/** How the total line at the end of a report begins. Common practice, no source. */
const TOTAL =
  /^(grand |sub)?-?(totals?|sum|count|number of|rows?:|end of|generated|exported|created (on|at|by)|report)\b/;

/** A cell as messages quote it. */
function told(text: string): string {
  return `“${shownName(text.length > 60 ? `${text.slice(0, 60)}…` : text)}”`;
}

/** Reads a report's rows one after the other, with a mapping. */
export class RowReader {
  private readonly at: readonly (readonly [Field, number])[];
  private readonly headings: ReadonlySet<string>;
  private readonly order: Exclude<DateOrder, "by the rows">;
  private above = new Map<Field, string>();
  // The same texts occur in very many rows: each is read once.
  private readonly dates = new Map<string, ReturnType<typeof readDate>>();
  private readonly people = new Map<string, readonly string[]>();
  private readonly meanings = new Map<Field, Map<string, string>>();

  /** @param columns the names of the report's columns @param order of the two numbers in a date */
  constructor(
    private readonly mapping: Mapping,
    columns: readonly string[],
    order: Exclude<DateOrder, "by the rows">,
  ) {
    this.at = FIELDS.flatMap((field) => {
      const at = columns.indexOf(mapping.columns[field] ?? "");
      return at < 0 ? [] : [[field, at] as const];
    });
    this.headings = new Set(Object.values(mapping.columns).map((column) => plainText(column.replace(/^.*: /, ""))));
    this.order = order;
  }

  /** @returns what the row says; null where it is empty */
  read(row: readonly string[]): RowRead {
    const cells = new Map<Field, string>();
    for (const [field, at] of this.at) {
      const text = (row[at] ?? "").trim();
      if (text !== "") cells.set(field, text);
    }
    if (cells.size === 0 && row.every((cell) => cell.trim() === "")) return null;
    const left = this.leftOut(row, cells);
    if (left) return { left };
    this.repeatAbove(cells);
    try {
      return { item: this.itemOf(cells), shares: this.sharesOf(cells) };
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return { problem: error.message, ...(error.unmapped && { unmapped: error.unmapped }) };
    }
  }

  private leftOut(row: readonly string[], cells: ReadonlyMap<Field, string>): string | null {
    const first = plainText(row.find((cell) => cell.trim() !== "") ?? "");
    if (TOTAL.test(first) && !OF_SHARE.some((field) => cells.has(field))) return `a line that sums up: ${told(first)}`;
    const areHeadings =
      this.headings.has(first) &&
      cells.size > 1 &&
      [...cells.values()].every((text) => this.headings.has(plainText(text)));
    return areHeadings ? "the headings again" : null;
  }

  private repeatAbove(cells: Map<Field, string>) {
    if (!this.mapping.repeatsAbove) return;
    if (!OF_PLACE.some((field) => cells.has(field)))
      for (const [field, text] of this.above) if (!cells.has(field)) cells.set(field, text);
    this.above = new Map([...cells].filter(([field]) => OF_ITEM.has(field)));
  }

  private itemOf(cells: ReadonlyMap<Field, string>): ItemTold {
    const [path, parent, name, id] = OF_PLACE.map((field) => cells.get(field));
    const names = path !== undefined ? namesOf(path) : name === undefined ? null : [...namesOf(parent ?? ""), name];
    if ((names === null || names.length === 0) && id === undefined)
      throw new Refused("it names no item: the cells for its place are empty");
    const kind = this.meaning("kind", cells);
    return {
      path:
        this.mapping.columns.path === undefined && this.mapping.columns.parent === undefined && id !== undefined
          ? null
          : names,
      id: id === undefined ? null : own(id),
      name: own(name ?? names?.at(-1) ?? id!),
      kind: kind ?? (path !== undefined && /[\\/]\s*$/.test(path) ? "folder" : null),
      label: noneIsNull(this.meaning("label", cells)),
      owner: this.mapping.columns.owner === undefined ? undefined : this.addressIn("owner", cells),
      inherits: asYes(this.meaning("inherits", cells)),
    };
  }

  private sharesOf(cells: ReadonlyMap<Field, string>): ShareTold[] {
    const audiences = this.audiencesOf(cells);
    if (audiences.length === 0) return [];
    const role = this.mapping.columns.role === undefined ? this.mapping.roleOtherwise : this.roleOf(cells);
    if (role === "none") return [];
    const [password, download] = [
      this.meaning("password", cells) === "yes",
      this.meaning("download", cells) !== "blocked",
    ];
    const [ends, lastUsed, madeOn] = DATE_FIELDS.map((field) => this.dateOf(field, cells));
    const madeBy = this.addressIn("madeBy", cells);
    const [id, url] = [textIn(cells, "share"), textIn(cells, "url")];
    const inherited = this.meaning("inherited", cells) === "yes";
    const shareFor = (audience: AudienceTold): ShareTold => {
      // Written out: there are very many, and spreading objects takes far longer.
      const given = roleFor(audience, role);
      return { audience, role: given, password, download, ends, lastUsed, madeBy, madeOn, id, url, inherited };
    };
    return audiences.map(shareFor);
  }

  private roleOf(cells: ReadonlyMap<Field, string>) {
    if (!cells.has("role") && this.mapping.values.role?.[""] === undefined) throw new Refused("its role is empty");
    return this.meaning("role", cells)!;
  }

  private audiencesOf(cells: ReadonlyMap<Field, string>): AudienceTold[] {
    const text = cells.get("audience") ?? "";
    if (this.mapping.columns.means !== undefined) {
      const says = OF_SHARE.some((field) => cells.has(field));
      return says ? this.audiencesBy(this.meaning("means", cells)!, text) : [];
    }
    if (text === "") {
      if (cells.has("role")) throw new Refused("it has a role, and nobody that it is shared with");
      return [];
    }
    if (text.includes("@")) return this.addressesIn(text).map((person) => ({ person }));
    return this.audiencesBy(this.meaning("audience", cells)!, text);
  }

  private audiencesBy(means: string, text: string): AudienceTold[] {
    switch (means) {
      case "none":
        return [];
      case "open":
      case "house":
        return [{ reach: means }];
      case "named":
        return [{ people: [...this.addressesIn(text)] }];
      case "person":
        return this.addressesIn(text).map((person) => ({ person }));
      default:
        if (text === "") throw new Refused("it is shared with a group, and names none");
        return text
          .split(/\s*;\s*/)
          .filter(Boolean)
          .map((group) => ({ group: own(group) }));
    }
  }

  private addressesIn(text: string): readonly string[] {
    let found = this.people.get(text);
    if (found) return found;
    if (this.people.size > MOST_TEXTS) this.people.clear();
    this.people.set(own(text), (found = addresses(text).map(own)));
    return found;
  }

  /** What the text of a column means; undefined where no column has it. */
  private meaning<F extends ChoiceField>(
    field: F,
    cells: ReadonlyMap<Field, string>,
  ): NonNullable<Values[F]>[string] | undefined {
    if (this.mapping.columns[field] === undefined) return undefined;
    const given = cells.get(field) ?? "";
    const seen = this.meanings.get(field)?.get(given);
    return (seen ?? this.meaningOf(field, given)) as NonNullable<Values[F]>[string] | undefined;
  }

  private meaningOf(field: ChoiceField, given: string): string | undefined {
    const text = plainText(given);
    const values = this.mapping.values[field] as Record<string, string> | undefined;
    const meaning = values && Object.hasOwn(values, text) ? values[text] : undefined;
    if (meaning !== undefined) {
      if (!this.meanings.has(field)) this.meanings.set(field, new Map());
      this.meanings.get(field)!.set(own(given), meaning);
    }
    if (meaning !== undefined || text === "") return meaning;
    throw new Refused(`nobody has said yet what ${told(text)} in ${told(this.mapping.columns[field]!)} means`, {
      field,
      text,
    });
  }

  private addressIn(field: "owner" | "madeBy", cells: ReadonlyMap<Field, string>): string | null {
    const text = cells.get(field);
    // Many reports give owners by name, which can't be matched with anybody.
    return text === undefined || !text.includes("@") ? null : this.addressesIn(text)[0];
  }

  /** A day without a time: a share ends at the end of it, and was made or used at the beginning. */
  private dateOf(field: DateField, cells: ReadonlyMap<Field, string>): Seconds | null {
    const text = cells.get(field);
    if (text === undefined) return null;
    let date = this.dates.get(text);
    if (date === undefined) this.dates.set(own(text), (date = readDate(text, this.order, this.mapping.zone)));
    if (this.dates.size > MOST_TEXTS) this.dates.clear();
    if (date === null) return null;
    if ("problem" in date) throw new Refused(`${told(text)} in ${told(this.mapping.columns[field]!)} ${date.problem}`);
    if ("at" in date) return date.at;
    const { zone } = this.mapping;
    return field === "ends" ? dayBegins(date.day + 1, zone) - 1 : dayBegins(date.day, zone);
  }
}
const MOST_TEXTS = 50_000;

/** A copy of a text: a piece cut out of a file would keep the whole file in memory. */
export function own(text: string): string {
  return text.length < SHORT ? text : [text.slice(0, 1), text.slice(1)].join("");
}
/** V8 copies shorter texts anyway. */
const SHORT = 13;

/** The addresses in a cell, each once: `ada@quay.example; Odo Hale <odo@quay.example>`. */
function addresses(text: string): string[] {
  const parts = text.split(/[;,|\n]+/).map((part) => /<([^<>]*)>/.exec(part)?.[1] ?? part.trim());
  const all = parts.filter((part) => part !== "").flatMap((part) => (isMailAddress(part) ? [part] : part.split(/\s+/)));
  if (all.length === 0) throw new Refused("it names nobody that it is shared with");
  const bad = all.find((one) => !one.includes("@") || !isMailAddress(one));
  if (bad !== undefined) throw new Refused(`${told(bad)} isn’t an e-mail address`);
  return [...new Set(all.map(normaliseAddress))];
}

/** A link allows editing at most, and only an open one can collect files. */
function roleFor(audience: AudienceTold, role: ShareTold["role"]): ShareTold["role"] {
  const isLink = "reach" in audience || "people" in audience;
  if (role === "deposit" && !("reach" in audience && audience.reach === "open"))
    throw new Refused("it collects files, which only an open link can");
  return isLink && role === "manage" ? "edit" : role;
}

/** `/Season/Plan.pdf`, `S:\Season\Plan.pdf` and `Season > Plan.pdf` are the names from the top down. */
function namesOf(path: string): string[] {
  const between = path.includes("/") ? /\// : path.includes("\\") ? /\\/ : / > | › | » /;
  return path
    .split(between)
    .map((name) => name.trim())
    .filter((name) => name !== "" && name !== ".");
}

function textIn(cells: ReadonlyMap<Field, string>, field: Field): string | null {
  const text = cells.get(field);
  return text === undefined ? null : own(text);
}

function noneIsNull<T extends string>(text: T | "none" | undefined): Exclude<T, "none"> | null | undefined {
  return text === "none" ? null : (text as Exclude<T, "none"> | undefined);
}

function asYes(text: "yes" | "no" | undefined): boolean | undefined {
  return text === undefined ? undefined : text === "yes";
}
