import { shownName } from "@/core/text/shown";
import type { ChoiceField, Field } from "@/core/imports/field";
import type { Encoding, Separator } from "@/core/imports/file";
import type { RowTold, ShareTold } from "@/core/imports/row";
import type { Dates } from "../parts/dates";

/** What each meaning of a text is called. */
export const MEANING_WORDS: Record<ChoiceField, Record<string, string>> = {
  kind: { space: "space", folder: "folder", file: "file" },
  label: {
    ...{ public: "public", internal: "internal", confidential: "confidential", restricted: "restricted" },
    none: "no label",
  },
  inherits: { yes: "inherits", no: "doesn’t inherit" },
  audience: { group: "a group", open: "anyone", house: "everyone in-house", none: "nobody" },
  means: {
    ...{ person: "a person", group: "a group", open: "open link", house: "in-house link", named: "named link" },
    none: "no share",
  },
  role: {
    ...{ view: "view", comment: "comment", edit: "edit", manage: "manage", deposit: "deposit only" },
    none: "no access",
  },
  password: { yes: "has a password", no: "no password" },
  download: { allowed: "allowed", blocked: "blocked" },
  inherited: { yes: "inherited", no: "its own" },
};

export const ENCODING_WORDS: Record<Encoding, string> = {
  "utf-8": "UTF-8",
  "utf-16le": "UTF-16 (little-endian)",
  "utf-16be": "UTF-16 (big-endian)",
  "windows-1252": "Windows-1252",
};

export const SEPARATOR_WORDS: Record<Separator, string> = { ",": "comma", ";": "semicolon", "\t": "tab" };

/** In which order the screen offers fields: what a share needs first. */
export const FIELD_GROUPS: readonly (readonly [string, readonly Field[]])[] = [
  ["The item", ["path", "parent", "name", "item", "kind", "label", "owner", "inherits"]],
  ["Who has access", ["audience", "means", "role", "inherited"]],
  ["How it is shut", ["password", "download", "ends"]],
  ["What is known about it", ["lastUsed", "madeBy", "madeOn", "share", "url"]],
];

export function itemWords({ item }: RowTold): string {
  return shownName(item.path ? `/${item.path.join("/")}` : `${item.name} (${item.id})`);
}

/** A share in one line: who, what they may do, and how it is shut. */
export function shareWords({ audience, role, password, download, ends, inherited }: ShareTold, dates: Dates): string {
  const parts = [
    MEANING_WORDS.role[role],
    ...(password ? ["password"] : []),
    ...(download ? [] : ["download blocked"]),
    ...(ends === null ? [] : [`ends ${dates.day(ends)}`]),
    ...(inherited ? ["inherited"] : []),
  ];
  return `${whoIn(audience)}: ${parts.join(", ")}`;
}

function whoIn(audience: ShareTold["audience"]): string {
  if ("person" in audience) return audience.person;
  if ("group" in audience) return `group ${shownName(audience.group)}`;
  if ("people" in audience) return `link for ${audience.people.join(", ")}`;
  return audience.reach === "open" ? "anyone by link" : "everyone in-house by link";
}
