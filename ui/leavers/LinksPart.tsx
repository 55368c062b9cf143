"use client";

import type { LeaverLink } from "@/core/leavers/sheet";
import { within } from "@/core/text/text";
import { asOf, useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { countWords } from "../parts/words";

/** By id of each link: what is to become of it. It stays (`keep`), is ended (`end`), or tightened in one of its ways. */
export type Choices = ReadonlyMap<string, string>;

/** What is suggested for each, to begin with. */
export function suggestedChoices(links: readonly LeaverLink[]): Choices {
  return new Map(links.map((link) => [link.id, suggestedFor(link)]));
}

function suggestedFor({ suggested, ways }: LeaverLink): string {
  if (suggested?.suggest === "end") return "end";
  return suggested?.suggest === "tighten" ? (ways.at(0)?.key ?? "keep") : "keep";
}

interface Props {
  links: readonly LeaverLink[];
  choices: Choices;
  onChoices: ((choices: Choices) => void) | null;
}

/** The links that a leaver made, and what is to become of each. */
export function LinksPart({ links, choices, onChoices }: Props) {
  const all = (choice: string) => onChoices?.(new Map(links.map(({ id }) => [id, choice])));
  return (
    <section aria-label="Links they made" className="mt-5">
      <h2 className="text-[15px] font-semibold">Made {countWords(links.length, "live link")}</h2>
      {onChoices && (
        <p className="flex flex-wrap items-center gap-3 text-ink-soft">
          Each link starts with its suggested decision.
          <Button onClick={() => all("end")}>End all</Button>
          <Button onClick={() => onChoices(suggestedChoices(links))}>As suggested</Button>
          <Button onClick={() => all("keep")}>Keep all</Button>
        </p>
      )}
      <ul className="mt-1 max-h-96 overflow-y-auto" tabIndex={0} aria-label="Links">
        {links.map((link) => (
          <LinkLine
            key={link.id}
            link={link}
            choice={choices.get(link.id) ?? "keep"}
            onChoice={onChoices && ((choice) => onChoices(new Map(choices).set(link.id, choice)))}
          />
        ))}
      </ul>
    </section>
  );
}

interface LineProps {
  link: LeaverLink;
  choice: string;
  onChoice: ((choice: string) => void) | null;
}

function LinkLine({ link, choice, onChoice }: LineProps) {
  const { past } = useStandpoint();
  const { id, item, place, sentence, suggested, ways } = link;
  const suggestion = suggestedFor(link);
  const mark = (key: string) => (suggested && key === suggestion ? " (suggested)" : "");
  return (
    <li className="flex items-start gap-3 border-t border-line py-1.5">
      <span className="grow">
        <Link href={asOf(`/register?share=${encodeURIComponent(id)}`, past)} className="text-verdigris underline">
          {item}
        </Link>{" "}
        <span className="text-[12px] text-ink-faint">{place.join(" / ")}</span>
        <span className="block text-[12.5px] text-ink-soft">{sentence}</span>
      </span>
      {onChoice ? (
        <select
          aria-label={`Decision for the link on ${item}`}
          value={choice}
          onChange={(event) => onChoice(event.target.value)}
          className="h-[30px] w-96 shrink-0 rounded-[3px] border border-control bg-raised px-2"
        >
          <option value="keep">Keep it as it is{mark("keep")}</option>
          {ways.map(({ key, words }) => (
            <option key={key} value={key}>
              Tighten: {within(words)}
              {mark(key)}
            </option>
          ))}
          <option value="end">End it{mark("end")}</option>
        </select>
      ) : (
        suggested && <span className="text-ink-soft">suggested: {suggested.suggest}</span>
      )}
    </li>
  );
}
