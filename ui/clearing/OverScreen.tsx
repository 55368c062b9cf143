"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { clearingOperations, type ClearingSetting } from "@/contract/clearing";
import type { AnswerOf } from "@/contract/operation";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { IntakeTabs } from "../intake/IntakeTabs";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

type Over = AnswerOf<typeof clearingOperations.overLinks>;

/** Links that let nobody in any more: how many, how they are cleared, and how the number of live links changes. */
export function OverScreen() {
  const { data, error } = useQuery(asked(clearingOperations.overLinks));
  return (
    <div className="relative h-full overflow-y-auto bg-raised p-6">
      <IntakeTabs at="/register/over" />
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <div className="max-w-4xl">
          <Now over={data.over} />
          <Standing key={JSON.stringify(data.setting)} data={data} />
          <Trend data={data} />
        </div>
      )}
    </div>
  );
}

function Now({ over }: Pick<Over, "over">) {
  const { viewer, past } = useStandpoint();
  const { stage } = useTray();
  const total = over.reduce((sum, { broken, spent }) => sum + broken + spent, 0);
  return (
    <section>
      <h1 className="text-[18px] font-semibold">
        {total === 0
          ? "No link is over and still there"
          : `${countWords(total, "link is", "links are")} over and still there`}
      </h1>
      {total > 0 && (
        <>
          <p className="mt-1 max-w-prose text-ink-soft">
            They let nobody in: what they led to is gone, they have ended, or they are used up. A longer end, or an item
            that is restored, would open them again.
          </p>
          <table className="mt-2 border-collapse text-left">
            <thead>
              <tr className="border-b border-line-strong text-[12px] text-ink-faint">
                <th className="py-1 pr-8 font-semibold">Store</th>
                <th className="py-1 pr-8 text-right font-semibold">Item gone</th>
                <th className="py-1 pr-8 text-right font-semibold">Ended or used up</th>
              </tr>
            </thead>
            <tbody>
              {over.map(({ store, broken, spent }) => (
                <tr key={store} className="border-b border-line">
                  <td className="py-1 pr-8">{store}</td>
                  <td className="py-1 pr-8 text-right tabular-nums">{broken.toLocaleString("en-GB")}</td>
                  <td className="py-1 pr-8 text-right tabular-nums">{spent.toLocaleString("en-GB")}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {viewer.mayChange && past === null && (
            <p className="mt-3 flex items-center gap-3">
              <Button look="act" disabled={stage.isPending} onClick={() => stage.mutate([{ action: "clear" }])}>
                Add their revokes to the docket
              </Button>
              <span role="status" className="text-ink-soft">
                {stage.isSuccess && "They’re in the tray. Preview them there."}
              </span>
            </p>
          )}
          {stage.error && <Notice tone="wrong">{stage.error.message}</Notice>}
        </>
      )}
    </section>
  );
}

function Standing({ data: { setting: first, next, months } }: { data: Over }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const client = useQueryClient();
  const [setting, setSetting] = useState<ClearingSetting>(first);
  const save = useMutation({
    mutationFn: () => ask(clearingOperations.setClearing, { body: setting }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section className="mt-6">
      <h2 className="font-semibold">Every month</h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <fieldset disabled={!viewer.mayChange} className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-2">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={setting.on}
              onChange={({ target }) => setSetting({ ...setting, on: target.checked })}
            />
            Revoke them automatically once a month
          </label>
          <label className="flex items-center gap-2">
            at most
            <input
              type="number"
              min={1}
              max={100_000}
              value={setting.most}
              onChange={({ target }) => setSetting({ ...setting, most: Number(target.value) })}
              className="h-[30px] w-24 rounded-[3px] border border-control bg-raised px-2"
            />
            at a time; if there are more, they wait in a docket
          </label>
          {viewer.mayChange && (
            <Button type="submit" disabled={save.isPending}>
              Save
            </Button>
          )}
        </fieldset>
      </form>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
      <p className="mt-1 text-ink-soft">
        {next === null
          ? "Off: nothing is revoked automatically."
          : `Next on ${dates.day(next)}: whatever is listed above by then.`}
      </p>
      <ul className="mt-1">
        {months.map(({ month, docketId, links }) => (
          <li key={month}>
            {month}: {countWords(links, "link")}
            {docketId && (
              <>
                {", "}
                <Link href={`/ledger/dockets/${docketId}`} className="text-verdigris underline">
                  its docket
                </Link>
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Trend({ data: { trend, live, unusedForAYear } }: { data: Over }) {
  const dates = useDates();
  const stores = [...new Set(trend.flatMap(({ stores }) => Object.keys(stores)))].sort();
  return (
    <section className="mt-6">
      <h2 className="font-semibold">Live links over twelve months</h2>
      <p className="mt-1 max-w-prose text-ink-soft">
        {countWords(live, "link is", "links are")} live now; {unusedForAYear.toLocaleString("en-GB")} of them{" "}
        {unusedForAYear === 1 ? "has" : "have"} not been used for a year, as far as their stores report use. Past months
        are counted from what is known about each link today, without links whose item is gone.
      </p>
      <table className="mt-2 border-collapse text-left">
        <thead>
          <tr className="border-b border-line-strong text-[12px] text-ink-faint">
            <th className="py-1 pr-8 font-semibold">On</th>
            {stores.map((store) => (
              <th key={store} className="py-1 pr-8 text-right font-semibold">
                {store}
              </th>
            ))}
            <th className="py-1 text-right font-semibold">All</th>
          </tr>
        </thead>
        <tbody>
          {trend.map(({ at, stores: counts }) => (
            <tr key={at} className="border-b border-line">
              <td className="py-0.5 pr-8 tabular-nums">{dates.day(at)}</td>
              {stores.map((store) => (
                <td key={store} className="py-0.5 pr-8 text-right tabular-nums">
                  {(counts[store] ?? 0).toLocaleString("en-GB")}
                </td>
              ))}
              <td className="py-0.5 text-right font-semibold tabular-nums">
                {Object.values(counts)
                  .reduce((sum, count) => sum + count, 0)
                  .toLocaleString("en-GB")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
