import { countWords } from "../text/words";
import { type TrailEvent, REMARK_WORDS } from "./event";
import { TAKING, verbWords } from "./verbs";

/** An unknown person: whoever held an open link. */
const SOMEBODY = "Somebody with the link";

/** An event as one sentence. */
export function eventWords({ who, verb, item, whom }: Pick<TrailEvent, "who" | "verb" | "item" | "whom">): string {
  const object = item?.name ?? "";
  const words = `${who?.name ?? SOMEBODY} ${verbWords(verb)} ${object}`.trim();
  return whom ? `${words}, ${whom.name}` : words;
}

/** Similar events combined: `Opened 214 times by 3 people`. */
export function likeWords(title: string, count: number, people: number): string {
  const times = count === 1 ? "once" : count === 2 ? "twice" : `${count.toLocaleString("en-GB")} times`;
  return people === 0 ? `${title} ${times}` : `${title} ${times} by ${countWords(people, "person", "people")}`;
}

/** Remarks on an event: what went wrong in reporting it, and what can't be undone. */
export function cautions({ verb, who, remarks }: Pick<TrailEvent, "verb" | "who" | "remarks">): string[] {
  const isOutside = verb === "copy-sent" || who === null || Boolean(who.organisations?.length);
  const isTaken = (TAKING as readonly string[]).includes(verb) && isOutside;
  return [
    ...(isTaken ? ["A copy is outside and can’t be recalled."] : []),
    ...remarks.map((remark) => REMARK_WORDS[remark]),
  ];
}
