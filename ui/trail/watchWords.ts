import { HOUR } from "@/core/time/instant";
import type { TrailSearch } from "@/core/trail/search";
import { verbTitle } from "@/core/trail/verbs";
import type { Watch } from "@/core/trail/watch";
import { countWords, eitherWords } from "../parts/words";

/** What a watch looks for and whom it tells, in a sentence or two. */
export function watchWords(watch: Watch): string {
  return `${lookedFor(watch)}. ${toldWords(watch)}`;
}

function lookedFor(watch: Watch): string {
  switch (watch.kind) {
    case "not-opened":
      return `Somebody named on a link hasn’t opened it after ${countWords(watch.days, "day")}`;
    case "not-answered":
      return `An owner asked by a rule hasn’t answered after ${countWords(watch.days, "day")}`;
    case "held-back":
      return "A rule would change more in an hour than it is allowed to";
    case "nothing-sent-in":
      return "An intake link ends and nothing was sent in";
    case "events": {
      const { many, search } = watch;
      if (many === null) return searchWords(search);
      return `${searchWords(search)}: more than ${many.moreThan} within ${spanWords(many.seconds)} by one ${many.by}`;
    }
  }
}

/** A search in words. */
export function searchWords(search: TrailSearch): string {
  const parts = [
    search.verbs.length > 0 ? eitherWords(search.verbs.map(verbTitle)) : "Any event",
    search.words !== "" && `with “${search.words}”`,
    search.labels.length > 0 && `on items labelled ${eitherWords(search.labels)}`,
    search.parties.length > 0 && `with outsiders who are ${search.parties.join(", ")}`,
    search.organisations.length > 0 && `with ${eitherWords(search.organisations)}`,
    search.person !== null && `by or for ${search.person}`,
    search.item !== null && `below item ${search.item}`,
    search.share !== null && `through share ${search.share}`,
    search.stores.length > 0 && `in ${eitherWords(search.stores)}`,
  ];
  return parts.filter(Boolean).join(", ");
}

function spanWords(seconds: number): string {
  if (seconds % (24 * HOUR) === 0) return countWords(seconds / (24 * HOUR), "day");
  return seconds % HOUR === 0 ? countWords(seconds / HOUR, "hour") : countWords(Math.round(seconds / 60), "minute");
}

function toldWords({ mail, webhook, syslog, mostADay, quiet, zone }: Watch): string {
  const told = [...mail, ...(webhook ? ["the webhook"] : []), ...(syslog ? ["the log"] : [])];
  if (told.length === 0) return "Nobody is notified; its alerts appear on the Desk.";
  const rest = quiet === null ? "" : `, quiet from ${quiet.from} to ${quiet.to} (${zone})`;
  return `Tells ${told.join(", ")}; at most ${countWords(mostADay, "message")} a day, then a digest${rest}.`;
}
