import { KINDS, LABELS, ROLES } from "../estate/records";

/** What a column of a report can say. `docs/reports.md` describes each. */
export const FIELDS = [
  ...(["path", "parent", "name", "item", "kind", "label", "owner", "inherits"] as const),
  ...(["audience", "means", "role", "password", "download", "ends", "lastUsed"] as const),
  ...(["madeBy", "madeOn", "share", "url", "inherited"] as const),
];
export type Field = (typeof FIELDS)[number];

/** Each in words, as a screen offers it. */
export const FIELD_WORDS: Record<Field, string> = {
  path: "path, with the item’s name",
  parent: "folder that the item is in",
  name: "item’s name",
  item: "item’s ID",
  kind: "file, folder or space",
  label: "label",
  owner: "owner’s address",
  inherits: "whether the item inherits access",
  audience: "who it is shared with",
  means: "link, person or group",
  role: "role",
  password: "whether there is a password",
  download: "whether downloading is allowed",
  ends: "when the share ends",
  lastUsed: "when it was last used",
  madeBy: "address of who made it",
  madeOn: "when it was made",
  share: "share’s ID",
  url: "link’s address",
  inherited: "whether this access is inherited",
};

/** What the texts of some columns are mapped to. */
export const CHOICES = {
  kind: KINDS,
  label: [...LABELS, "none"],
  inherits: ["yes", "no"],
  /** Of what is no e-mail address. */
  audience: ["group", "open", "house", "none"],
  means: ["person", "group", "open", "house", "named", "none"],
  role: [...ROLES, "deposit", "none"],
  password: ["yes", "no"],
  download: ["allowed", "blocked"],
  inherited: ["yes", "no"],
} as const satisfies Partial<Record<Field, readonly string[]>>;
export type ChoiceField = keyof typeof CHOICES;

export const DATE_FIELDS = ["ends", "lastUsed", "madeOn"] as const satisfies readonly Field[];
export type DateField = (typeof DATE_FIELDS)[number];

export function isChoiceField(field: Field): field is ChoiceField {
  return Object.hasOwn(CHOICES, field);
}

/** A cell's text in the form in which we compare: whole, in lower case, with single spaces. */
export function plainText(text: string): string {
  return text.trim().toLowerCase().replace(/\s+/g, " ");
}
