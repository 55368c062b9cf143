"use client";

import { useId } from "react";
import type { DecidedLine } from "@/contract/decisions";
import { within } from "@/core/text/text";
import { countWords } from "../parts/words";
import { Decide } from "./Decide";
import type { LineGroup } from "./grouping";
import { LineCard } from "./LineCard";

interface Props {
  group: LineGroup;
  by: "share" | "person";
  /** How many different files its lines reach. */
  files: number;
  limitDays: number;
}

/** All lines of one place, or for the same people. */
export function LineGroupPart({ group, by, files, limitDays }: Props) {
  const id = useId();
  const lines = group.alike.flat();
  const open = lines.filter(isOpen);
  return (
    <section aria-labelledby={id} className="mt-6">
      <h2 id={id} className="border-b-2 border-line-strong pb-1 text-[15px] font-semibold wrap-anywhere">
        {by === "share"
          ? group.title
          : `${group.title}: ${countWords(lines.length, "share")}, ${countWords(files, "file")}`}
      </h2>
      {by === "person" && open.length > 1 && <Together lines={open} limitDays={limitDays} words={needWords(group)} />}
      {group.alike.map((alike) => (
        <Alike key={alike[0].shareId} lines={alike} limitDays={limitDays} by={by} />
      ))}
    </section>
  );
}

/** Ways in can be shown for one outsider or organisation, not for unknown holders of an address. */
const needWords = ({ key, title }: LineGroup) =>
  key.startsWith("person ") ? `Does ${title} still need this?` : `Is all of this still needed by ${within(title)}?`;

const isOpen = ({ state, isSettled }: DecidedLine) => state === "open" && !isSettled;

function Alike({ lines, limitDays, by }: { lines: DecidedLine[] } & Pick<Props, "limitDays" | "by">) {
  const open = lines.filter(isOpen);
  return (
    <>
      {by === "share" && open.length > 1 && (
        <Together
          lines={open}
          limitDays={limitDays}
          words={`${open.length} are alike, for ${within(open[0].audience)}.`}
        />
      )}
      <ul>
        {lines.map((line) => (
          <li key={line.shareId} className="border-b border-line py-3">
            <LineCard line={line} limitDays={limitDays} />
          </li>
        ))}
      </ul>
    </>
  );
}

/** One decision for several lines. */
function Together({ lines, limitDays, words }: { lines: DecidedLine[]; limitDays: number; words: string }) {
  return (
    <div role="group" aria-label={words} className="mt-2 bg-surface p-3">
      <p className="mb-2 font-semibold">{words} Decide them together:</p>
      <Decide lines={lines} limitDays={limitDays} />
    </div>
  );
}
