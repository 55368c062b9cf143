"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { homeBody } from "@/contract/estate";
import type { z } from "zod";
import type { FormEvent } from "react";
import { estateOperations } from "@/contract/estate";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";

const KEY = keyOf(estateOperations.home);

/** Which domains count as home: whoever has an address there is an insider, and everybody else an outsider. */
export function HomePart({ isStep }: { isStep?: boolean }) {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: KEY,
    queryFn: ({ signal }) => ask(estateOperations.home, { signal }),
  });
  const set = useMutation({
    mutationFn: (body: z.input<typeof homeBody>) => ask(estateOperations.setHome, { body }),
    // Every screen depends on who is outside.
    onSuccess: () => client.invalidateQueries(),
  });
  const onSubmit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const text = (name: string) => String(given.get(name) ?? "");
    set.mutate({
      name: text("name"),
      domains: text("domains")
        .split(/[\s,]+/)
        .filter(Boolean),
    });
  };
  const problem = error ?? set.error;
  return (
    <section aria-label="Organisation and home domains" className="max-w-4xl">
      {!isStep && (
        <h1 id="home" className="mb-1 text-[20px] font-semibold">
          Organisation and home domains
        </h1>
      )}
      <p className="mb-3 text-ink-soft">
        People with an address at one of these domains or their subdomains are insiders. Everyone else is an outsider.
      </p>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {data && (
        <form onSubmit={onSubmit} className="flex items-start gap-6">
          <div className="w-64">
            <Field
              label="Organisation"
              name="name"
              key={data.name}
              defaultValue={data.name}
              maxLength={100}
              hint="Reports begin with it."
            />
          </div>
          <div className="w-96">
            <Field
              label="Domains, separated by commas"
              name="domains"
              key={data.domains.join()}
              defaultValue={data.domains.join(", ")}
              required
              hint="The change applies from now on; past dates in the register stay as they were."
            />
          </div>
          <div className="pt-[25px]">
            <Button type="submit" look="act" disabled={set.isPending}>
              Save
            </Button>
          </div>
          <p role="status" className="pt-8 text-ink-soft">
            {set.isSuccess && "Saved."}
          </p>
        </form>
      )}
    </section>
  );
}
