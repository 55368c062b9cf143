import type { ItemWays, ReachWays } from "@/core/access/ways";
import { parseSubject, type Report, type ReportSection, tableOf } from "@/core/evidence/report";
import { begun } from "@/core/text/text";
import { countWords } from "@/core/text/words";
import { NEVER, type Seconds } from "@/core/time/instant";
import type { Asking } from "../../engine/client";
import { Problem } from "../../platform/problem";
import { dayOf, endOfDay, pastOr } from "./days";

/** Who could reach an item on a day, or what somebody could reach. @throws {Problem} if it isn't known */
export async function reachReport(app: Asking, { day, about }: { day: string; about: string }): Promise<Report> {
  const at = endOfDay(app, day);
  const { kind, id } = parseSubject(about)!;
  if (kind === "share")
    throw new Problem("bad", "about: choose an item, a person or an organisation. A share’s row says who it is for.");
  const ways = await app.engine.ask("waysIn", { [kind]: id }, pastOr(app, at));
  if (!ways || ways.kind === "paths")
    throw new Problem("unknown", `about: nothing was known about ${about} on ${dayOf(at)}.`);
  return ways.kind === "item" ? whoReport(ways, at) : whatReport(ways, at);
}

const access = ({ role, download, until }: { role: string; download: boolean; until: Seconds }) => [
  begun(role),
  download ? "yes" : "no",
  until === NEVER ? "never" : dayOf(until),
];

function whoReport({ item, people, crowd }: ItemWays, at: Seconds): Report {
  const place = item.place.join(" / ");
  const outsiders = people.filter(({ insider }) => !insider);
  const insiders = people.filter(({ insider }) => insider);
  return {
    title: `Who could reach ${item.name} on ${dayOf(at)}`,
    words: `It lay in ${place}, and its label was ${item.label}. As of the end of the day, in UTC.`,
    sections: [
      peopleSection("Outsiders, by name", outsiders),
      {
        title: "Whoever has the address",
        words:
          crowd.length === 0
            ? "No link let anyone in without naming them."
            : "These links let in whoever had their address. Nobody can know who that was.",
        table: tableOf(
          ["Link", "Role", "Download", "Ends"],
          crowd.map((one) => [one.words, ...access(one)]),
        ),
      },
      peopleSection("Our own people", insiders),
    ],
  };
}

function peopleSection(title: string, people: ItemWays["people"]): ReportSection {
  const rows = people.map((one) => [one.name, one.address, one.organisation, ...access(one)]);
  return {
    title,
    words: people.length === 0 ? "None." : `${countWords(people.length, "person", "people")}.`,
    table: tableOf(["Name", "Address", "Organisation", "Role", "Download", "Ends"], rows),
  };
}

function whatReport({ who, count, items }: ReachWays, at: Seconds): Report {
  const name = "people" in who ? `everybody at ${who.organisation}` : `${who.name} (${who.address})`;
  const rows = items.map((one) => [one.name, one.place.join(" / "), begun(one.label), ...access(one)]);
  const left = count - items.length;
  return {
    title: `What ${name} could reach on ${dayOf(at)}`,
    words:
      ("people" in who ? `By name: ${who.people.map(({ address }) => address).join(", ")}. ` : "") +
      "Links that name nobody are left out: whoever has their address can use them. As of the end of the day, in UTC.",
    sections: [
      {
        title: countWords(count, "item"),
        words: left > 0 ? `The first ${items.length} are listed; see Ways in for the rest.` : "",
        table: tableOf(["Item", "Where", "Label", "Role", "Download", "Ends"], rows),
      },
    ],
  };
}
