"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { type StoreFound, storesOperations } from "@/contract/stores";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { capabilityWords } from "./storeWords";

interface Where {
  url: string;
  key: string;
}

/** Connects a store: first it is asked what it is, and only then kept. */
export function AddStorePart({ isFirst }: { isFirst: boolean }) {
  const [where, setWhere] = useState<Where>({ url: "", key: "" });
  const look = useMutation({ mutationFn: (body: Where) => ask(storesOperations.tryStore, { body }) });
  const change = (to: Partial<Where>) => {
    setWhere({ ...where, ...to });
    look.reset();
  };
  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    look.mutate(where);
  };
  const done = () => {
    setWhere({ url: "", key: "" });
    look.reset();
  };
  return (
    <section aria-labelledby="add-store" className="mt-6 max-w-5xl border-t border-line pt-3">
      <h2 id="add-store" className="text-[17px] font-semibold">
        {isFirst ? "Connect a store" : "Connect another store"}
      </h2>
      <p className="max-w-prose text-ink-soft">
        A store that speaks our protocol is read directly and changed from here. It is tested before it is saved.
      </p>
      <form onSubmit={onSubmit} className="mt-2 flex flex-wrap items-start gap-x-6">
        <div className="w-96">
          <Field
            label="Address"
            type="url"
            required
            value={where.url}
            placeholder="https://files.wrenmoor.example"
            onChange={({ target }) => change({ url: target.value })}
          />
        </div>
        <div className="w-72">
          <Field
            label="Key"
            type="password"
            required
            autoComplete="off"
            value={where.key}
            onChange={({ target }) => change({ key: target.value })}
            hint="Stored encrypted, and not shown again."
          />
        </div>
        <div className="pt-[25px]">
          <Button type="submit" look={look.data ? "quiet" : "act"} disabled={look.isPending} className="h-9">
            {look.isPending ? "Testing…" : "Test it"}
          </Button>
        </div>
      </form>
      {look.error && <Notice tone="wrong">{look.error.message}</Notice>}
      {look.data && <Found found={look.data} where={where} onDone={done} />}
    </section>
  );
}

function Found({ found, where, onDone }: { found: StoreFound; where: Where; onDone: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState(found.name);
  const [id, setId] = useState(
    found.id
      .toLowerCase()
      .replace(/[^a-z0-9-]+/g, "-")
      .slice(0, 40),
  );
  const add = useMutation({
    mutationFn: () => ask(storesOperations.addStore, { body: { id, name, ...where } }),
    onSuccess: async () => {
      await client.invalidateQueries();
      onDone();
    },
  });
  const { can, cannot } = capabilityWords(found.capabilities);
  return (
    <div className="border border-line bg-surface px-4 py-3">
      <p>
        It answers as <b className="font-semibold">{found.name}</b>, and has {found.isAll ? "" : "more than "}
        {countWords(found.records, "record")}. It can do: {can}.{cannot && ` It can’t do: ${cannot}.`}
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
        className="mt-2 flex flex-wrap items-start gap-x-6"
      >
        <div className="w-72">
          <Field label="What people call it" required value={name} onChange={({ target }) => setName(target.value)} />
        </div>
        <div className="w-72">
          <Field
            label="Short name"
            required
            pattern="[a-z0-9][a-z0-9\-]{0,39}"
            value={id}
            onChange={({ target }) => setId(target.value)}
            hint="The same as before, if it was connected before."
          />
        </div>
        <div className="pt-[25px]">
          <Button type="submit" look="act" disabled={add.isPending} className="h-9">
            Connect and read it
          </Button>
        </div>
      </form>
      {add.error && <Notice tone="wrong">{add.error.message}</Notice>}
    </div>
  );
}
