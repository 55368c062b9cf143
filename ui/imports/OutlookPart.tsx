"use client";

import { useState } from "react";
import type { ReportOutlookTold } from "@/contract/imports";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords, listWords } from "../parts/words";

interface Props {
  outlook: ReportOutlookTold;
  isBusy: boolean;
  onTake: (given: { skips: boolean; ended: number | null }) => void;
}

/** What importing a report would change, and the button that imports it. */
export function OutlookPart({ outlook, isBusy, onTake }: Props) {
  const [isSure, setSure] = useState(false);
  const { rows, refused, left, inherited, remarked, items, shares, endedCount, held, isHeld, unknownGroups } = outlook;
  const isNothing = items.fresh + items.changed + shares.fresh + shares.changed + endedCount === 0;
  return (
    <section aria-labelledby="outlook" className="mt-6 max-w-4xl">
      <h2 id="outlook" className="text-[17px] font-semibold">
        What importing it changes
      </h2>
      <p className="mt-1">
        <b className="font-semibold">{countWords(rows, "row")}:</b> {countWords(shares.fresh, "new share")},{" "}
        {shares.changed.toLocaleString("en-GB")} changed, {shares.same.toLocaleString("en-GB")} as before;{" "}
        {countWords(items.fresh, "new item")}, {items.changed.toLocaleString("en-GB")} changed.
      </p>
      {inherited > 0 && (
        <p>{countWords(inherited, "row")} only repeat what a folder above gives, and are no shares of their own.</p>
      )}
      {isNothing && <Notice>The report says what is known already.</Notice>}
      {unknownGroups.length > 0 && (
        <Notice>
          Nobody tells who is in {countWords(unknownGroups.length, "group")}:{" "}
          {listWords(unknownGroups.slice(0, GROUPS_SHOWN))}
          {unknownGroups.length > GROUPS_SHOWN && " and more"}. Until a directory’s list does, they count as empty.
        </Notice>
      )}
      {refused > 0 && (
        <Rows title={`${countWords(refused, "row")} can’t be read`} rows={outlook.problems} count={refused} isWrong />
      )}
      {left > 0 && <Rows title={`${countWords(left, "row")} left out`} rows={outlook.leftOut} count={left} />}
      {remarked > 0 && <Rows title="Unusual, but read as it is" rows={outlook.remarks} count={remarked} />}
      {endedCount > 0 && (
        <div className="mt-3">
          <h3 className="font-semibold">
            {countWords(endedCount, "share")} of {held.toLocaleString("en-GB")} ended: the report no longer names them
          </h3>
          <ul aria-label="Shares that ended" tabIndex={0} className="mt-1 max-h-44 overflow-y-auto">
            {outlook.ended.map(({ item, audience }, i) => (
              <li key={i} className="border-t border-line py-1">
                {item} <span className="text-ink-soft">for {audience}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {isHeld && (
        <label className="mt-3 flex gap-2 border border-oxide bg-surface px-4 py-3">
          <input type="checkbox" checked={isSure} onChange={({ target }) => setSure(target.checked)} />
          The report is complete: these {countWords(endedCount, "share")} have ended. A report with half of its rows
          missing looks like this.
        </label>
      )}
      {refused > 0 && (
        <p className="mt-3 text-ink-soft">
          Correct the rows and choose the file again; or skip them. With rows skipped, no share counts as ended.
        </p>
      )}
      <p className="mt-3 flex gap-3">
        <Button
          look="act"
          disabled={isBusy || (isHeld && !isSure)}
          onClick={() => onTake({ skips: refused > 0, ended: isHeld ? endedCount : null })}
        >
          {refused > 0 ? `Import without ${countWords(refused, "row")}` : "Import the report"}
        </Button>
      </p>
    </section>
  );
}

const GROUPS_SHOWN = 5;

interface RowsProps {
  title: string;
  rows: readonly { line: number; message: string }[];
  count: number;
  isWrong?: boolean;
}

function Rows({ title, rows, count, isWrong }: RowsProps) {
  return (
    <div className="mt-3">
      <h3 className={isWrong ? "font-semibold text-oxide" : "font-semibold"}>{title}</h3>
      <ul aria-label={title} tabIndex={0} className="mt-1 max-h-44 overflow-y-auto">
        {rows.map(({ line, message }, i) => (
          <li key={i} className="flex gap-3 border-t border-line py-1">
            <span className="w-24 shrink-0 text-ink-faint tabular-nums">row {line.toLocaleString("en-GB")}</span>
            <span className="wrap-anywhere">{message}</span>
          </li>
        ))}
      </ul>
      {rows.length < count && (
        <p className="text-ink-soft">and {(count - rows.length).toLocaleString("en-GB")} more.</p>
      )}
    </div>
  );
}
