"use client";

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { intakeOperations, type IntakeTold } from "@/contract/intake";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { useStaging } from "../staging/useStaging";
import { IntakeActs } from "./IntakeActs";
import { IntakeTabs } from "./IntakeTabs";

/** Every link by which outsiders send files in: until when, how it is kept, what came by it, and who answers for it. */
export function IntakeScreen() {
  const { viewer, past, now } = useStandpoint();
  const { data, error } = useQuery(asked(intakeOperations.intakeLinks));
  const [said, setSaid] = useState<string | null>(null);
  const staging = useStaging(now, "", (words) => setSaid(words ?? "It’s in the tray. Preview it and apply it there."));
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <h1 className="sr-only">Intake links</h1>
      <IntakeTabs at="/register/intake" />
      <p role="status" className="mb-2 min-h-5 text-ink-soft">
        {said}
      </p>
      {past !== null && <Notice>Intake links are shown as they are now.</Notice>}
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.links.length === 0 && (
        <Notice>There are no intake links. A store that has them tells of them when it is read next.</Notice>
      )}
      {data && data.links.length > 0 && (
        <table className="w-full table-fixed border-collapse text-left">
          <thead>
            <tr className="border-b border-line-strong text-[12px] text-ink-faint">
              <th className="w-[22%] py-1 pr-3 font-semibold">Folder</th>
              <th className="w-[13%] py-1 pr-3 font-semibold">Open</th>
              <th className="w-[19%] py-1 pr-3 font-semibold">Visitors read</th>
              <th className="w-[14%] py-1 pr-3 font-semibold">In the folder</th>
              <th className="w-[10%] py-1 pr-3 font-semibold">Came in</th>
              <th className="w-[12%] py-1 pr-3 font-semibold">Responsible</th>
              <th className="py-1 font-semibold">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.links.map((link) => (
              <IntakeRow
                key={link.id}
                link={link}
                acts={
                  viewer.mayChange && past === null ? (
                    <IntakeActs link={link} words={data.words} staging={staging} />
                  ) : null
                }
              />
            ))}
          </tbody>
        </table>
      )}
      {staging.dialog}
    </div>
  );
}

function IntakeRow({ link, acts }: { link: IntakeTold; acts: React.ReactNode }) {
  const dates = useDates();
  const { id, itemName, storeName, place, opens, ends, password, came, lastCame, answers, findings } = link;
  return (
    <tr className="border-b border-line align-top">
      <td className="py-2 pr-3">
        <Link href={`/register?share=${encodeURIComponent(id)}`} className="text-verdigris underline wrap-anywhere">
          {itemName}
        </Link>
        <span className="block text-[12px] text-ink-faint">{[storeName, ...place].join(" / ")}</span>
        {findings.map(({ rule, title }) => (
          <span key={rule} className="block text-[12.5px] text-copper">
            {title}
          </span>
        ))}
      </td>
      <td className="py-2 pr-3">
        {opens !== null && <span className="block">from {dates.moment(opens)}</span>}
        <span className="block">{ends === null ? "without an end" : `until ${dates.end(ends)}`}</span>
        <span className="block text-ink-faint">{password ? "with a password" : "without a password"}</span>
      </td>
      <td className="py-2 pr-3 wrap-anywhere">{wordsOf(link)}</td>
      <td className="py-2 pr-3">
        {stateWords(link)}
        <span className="block text-ink-faint">{countWords(link.readers, "insider")} can read it</span>
      </td>
      <td className="py-2 pr-3">
        {came === 0 ? (
          "nothing yet"
        ) : (
          <Link href={`/register/intake/came-in?link=${encodeURIComponent(id)}`} className="text-verdigris underline">
            {countWords(came, "file")}
          </Link>
        )}
        {lastCame !== null && <span className="block text-ink-faint">last {dates.day(lastCame)}</span>}
      </td>
      <td className="py-2 pr-3 wrap-anywhere">
        {answers?.name ?? <b className="font-semibold text-copper">nobody still here</b>}
      </td>
      <td className="py-2">{acts}</td>
    </tr>
  );
}

function wordsOf({ message }: IntakeTold): React.ReactNode {
  if (message === undefined) return <span className="text-ink-faint">Its store doesn’t tell.</span>;
  return message === null ? <span className="text-ink-faint">the store’s own text</span> : message;
}

/** Whether the folder is for this alone, and what else is in it. */
function stateWords({ files, folders, others, outside }: IntakeTold): React.ReactNode {
  const mixed = [
    folders > 0 && countWords(folders, "subfolder"),
    others > 0 && `${countWords(others, "other share")}${outside > 0 ? ` (${outside} outside)` : ""}`,
  ].filter(Boolean);
  return (
    <>
      <span className="block">{countWords(files, "file")}</span>
      {mixed.length === 0 ? (
        <span className="block">for this alone</span>
      ) : (
        <span className="block text-copper">mixed: {mixed.join("; ")}</span>
      )}
    </>
  );
}
