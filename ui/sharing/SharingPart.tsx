"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { sharingOperations } from "@/contract/sharing";
import { type Label, LABELS } from "@/core/estate/records";
import type { FreeRequests, Templates } from "@/core/sharing/templates";
import { type Wish, WISHED_ROLES } from "@/core/sharing/wish";
import { begun } from "@/core/text/text";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";

/** What a new share begins with, by label; and which requests need nobody’s approval. */
export function SharingPart() {
  const { data, error } = useQuery(asked(sharingOperations.sharingSettings));
  return (
    <section aria-labelledby="sharing" className="max-w-4xl">
      <h1 id="sharing" className="mb-1 text-[20px] font-semibold">
        Sharing
      </h1>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          <TemplatesForm key={JSON.stringify(data.templates)} first={data.templates} />
          <WordsForm key={data.words} first={data.words} />
          <FreeForm key={JSON.stringify(data.free)} first={data.free} />
        </>
      )}
    </section>
  );
}

const ROLE_WORDS: Record<Wish["role"], string> = { view: "look", comment: "comment", edit: "edit" };

function TemplatesForm({ first }: { first: Templates }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const [templates, setTemplates] = useState(first);
  const save = useMutation({
    mutationFn: () => ask(sharingOperations.setTemplates, { body: templates }),
    onSuccess: () => client.invalidateQueries(),
  });
  const turn = (label: Label, values: Partial<Templates[Label]>) =>
    setTemplates({ ...templates, [label]: { ...templates[label], ...values } });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="mt-3 text-[17px] font-semibold">What a new share begins with</h2>
      <p className="mb-2 max-w-prose text-ink-soft">
        By the label of the item. Whoever shares can change it; the rules hold all the same.
      </p>
      <fieldset disabled={!viewer.mayChange}>
        <table className="border-collapse text-left">
          <thead>
            <tr className="text-[12px] text-ink-faint">
              {["Label", "For", "They may", "Days", "Passphrase", "Downloads"].map((head) => (
                <th key={head} className="border-b border-line-strong py-1 pr-6 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {LABELS.map((label) => {
              const { named, role, days, password, download } = templates[label];
              return (
                <tr key={label} className="border-b border-line">
                  <th className="py-1.5 pr-6 font-semibold">{begun(label)}</th>
                  <td className="py-1 pr-6">
                    <select
                      aria-label={`For, ${label}`}
                      value={named ? "named" : "anyone"}
                      onChange={({ target }) => turn(label, { named: target.value === "named" })}
                      className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
                    >
                      <option value="named">named people</option>
                      <option value="anyone">anyone with the link</option>
                    </select>
                  </td>
                  <td className="py-1 pr-6">
                    <select
                      aria-label={`They may, ${label}`}
                      value={role}
                      onChange={({ target }) => turn(label, { role: target.value as Wish["role"] })}
                      className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
                    >
                      {WISHED_ROLES.map((one) => (
                        <option key={one} value={one}>
                          {ROLE_WORDS[one]}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="py-1 pr-6">
                    <input
                      aria-label={`Days, ${label}`}
                      type="number"
                      min={1}
                      max={3650}
                      value={days}
                      onChange={({ target }) => turn(label, { days: Number(target.value) })}
                      className="h-[30px] w-20 rounded-[3px] border border-control bg-raised px-2"
                    />
                  </td>
                  <td className="py-1 pr-6">
                    <input
                      type="checkbox"
                      aria-label={`Passphrase, ${label}`}
                      disabled={named}
                      checked={!named && password}
                      onChange={({ target }) => turn(label, { password: target.checked })}
                    />
                  </td>
                  <td>
                    <input
                      type="checkbox"
                      aria-label={`Downloads, ${label}`}
                      checked={download}
                      onChange={({ target }) => turn(label, { download: target.checked })}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
        {viewer.mayChange && (
          <Button type="submit" look="act" className="mt-3" disabled={save.isPending}>
            Save the templates
          </Button>
        )}
        <span role="status" className="ml-3 text-ink-soft">
          {save.isSuccess && "Saved."}
        </span>
      </fieldset>
    </form>
  );
}

function WordsForm({ first }: { first: string }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const [words, setWords] = useState(first);
  const id = useId();
  const save = useMutation({
    mutationFn: () => ask(sharingOperations.setShareWords, { body: { words } }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <form
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="text-[17px] font-semibold">What the mail says</h2>
      <label htmlFor={id} className="mb-2 block max-w-prose text-ink-soft">
        People get one mail about a new share: what it is, until when, and the link. Add words of your own, such as who
        you are and how to reach you.
      </label>
      <fieldset disabled={!viewer.mayChange}>
        <textarea
          id={id}
          rows={3}
          maxLength={1000}
          value={words}
          onChange={({ target }) => setWords(target.value)}
          className="block w-full max-w-2xl rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
        />
        {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
        {viewer.mayChange && (
          <Button type="submit" look="act" className="mt-3" disabled={save.isPending || words === first}>
            Save the words
          </Button>
        )}
      </fieldset>
    </form>
  );
}

const STANDARD: NonNullable<FreeRequests> = { labels: ["public"], maxDays: 30, named: true };

function FreeForm({ first }: { first: FreeRequests }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const [free, setFree] = useState(first);
  const save = useMutation({
    mutationFn: () => ask(sharingOperations.setFreeRequests, { body: { free } }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <form
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="text-[17px] font-semibold">Requests that need nobody’s approval</h2>
      <p className="mb-2 max-w-prose text-ink-soft">
        Only those that break no rule, and go to addresses that nothing speaks against. All others wait for an
        administrator.
      </p>
      <fieldset disabled={!viewer.mayChange} className="space-y-2">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={free !== null}
            onChange={({ target }) => setFree(target.checked ? STANDARD : null)}
          />
          Make some of them at once
        </label>
        {free && (
          <div className="ml-6 flex flex-wrap items-center gap-x-5 gap-y-2">
            {LABELS.map((label) => (
              <label key={label} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={free.labels.includes(label)}
                  onChange={({ target }) =>
                    setFree({
                      ...free,
                      labels: LABELS.filter((one) => (one === label ? target.checked : free.labels.includes(one))),
                    })
                  }
                />
                {label}
              </label>
            ))}
            <label className="flex items-center gap-2">
              for at most
              <input
                type="number"
                min={1}
                max={3650}
                value={free.maxDays}
                onChange={({ target }) => setFree({ ...free, maxDays: Number(target.value) })}
                className="h-[30px] w-20 rounded-[3px] border border-control bg-raised px-2"
              />
              days
            </label>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={free.named}
                onChange={({ target }) => setFree({ ...free, named: target.checked })}
              />
              for named people only
            </label>
          </div>
        )}
        {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
        {viewer.mayChange && (
          <Button type="submit" look="act" disabled={save.isPending || free?.labels.length === 0}>
            Save
          </Button>
        )}
        <span role="status" className="ml-3 text-ink-soft">
          {save.isSuccess && "Saved."}
        </span>
      </fieldset>
    </form>
  );
}
