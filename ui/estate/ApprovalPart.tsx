"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { FormEvent } from "react";
import { docketsOperations } from "@/contract/dockets";
import type { ApprovalSetting } from "@/core/preview/approval";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";

const KEY = keyOf(docketsOperations.approval);

/** Which dockets need a second pair of eyes. */
export function ApprovalPart() {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: KEY,
    queryFn: ({ signal }) => ask(docketsOperations.approval, { signal }),
  });
  const set = useMutation({
    mutationFn: (body: ApprovalSetting) => ask(docketsOperations.setApproval, { body }),
    onSuccess: (setting) => client.setQueryData(KEY, setting),
  });
  const onSubmit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const above = String(given.get("above") ?? "");
    set.mutate({ above: above === "" ? null : Number(above), insiders: given.get("insiders") === "on" });
  };
  const problem = error ?? set.error;
  return (
    <section aria-labelledby="approval" className="mt-8 max-w-3xl">
      <h2 id="approval" className="text-[17px] font-semibold">
        A second pair of eyes
      </h2>
      <p className="mb-3 text-ink-soft">
        Such dockets wait until another administrator has approved them; whoever put one together can&rsquo;t.
      </p>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {data && (
        <form onSubmit={onSubmit} className="flex items-start gap-6">
          <div className="w-64">
            <Field
              label="Dockets of more changes than"
              name="above"
              type="number"
              min={0}
              max={1_000_000}
              defaultValue={data.above ?? ""}
              hint="Empty: however large, none has to."
            />
          </div>
          <label className="flex items-center gap-2 pt-8">
            <input type="checkbox" name="insiders" defaultChecked={data.insiders} />
            Those by which somebody of the house loses something
          </label>
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
