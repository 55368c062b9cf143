"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { FormEvent } from "react";
import { docketsOperations } from "@/contract/dockets";
import type { ApprovalSetting, ApprovalView } from "@/core/preview/approval";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

const KEY = keyOf(docketsOperations.approval);

/** Which dockets need approval. */
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
    set.mutate({
      above: above === "" ? null : Number(above),
      insiders: given.get("insiders") === "on",
      reason: given.get("reason") === "on",
    });
  };
  const problem = error ?? set.error;
  const setting = data?.setting;
  return (
    <section aria-labelledby="approval" className="max-w-3xl">
      <h1 id="approval" className="mb-1 text-[20px] font-semibold">
        Second approval
      </h1>
      <p className="mb-3 text-ink-soft">
        Such dockets wait until another administrator approves them; nobody can approve their own. Requiring less than
        today needs another administrator’s agreement too.
      </p>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {data?.proposed && <Proposed proposed={data.proposed} />}
      {setting && (
        <form key={JSON.stringify(setting)} onSubmit={onSubmit} className="flex flex-col items-start gap-3">
          <div className="w-72">
            <Field
              label="Dockets with more changes than"
              name="above"
              type="number"
              min={0}
              max={1_000_000}
              defaultValue={setting.above ?? ""}
              hint="Leave empty to require none because of their size."
            />
          </div>
          <label className="flex items-center gap-2">
            <input type="checkbox" name="insiders" defaultChecked={setting.insiders} />
            Dockets that take access from our own people
          </label>
          <h2 className="mt-3 text-[17px] font-semibold">Reasons</h2>
          <label className="flex items-center gap-2">
            <input type="checkbox" name="reason" defaultChecked={setting.reason} />
            Every docket needs a reason
          </label>
          <div className="mt-1 flex items-center gap-4">
            <Button type="submit" look="act" disabled={set.isPending}>
              Save
            </Button>
            <p role="status" className="text-ink-soft">
              {set.isSuccess && !set.data.proposed && "Saved."}
            </p>
          </div>
        </form>
      )}
    </section>
  );
}

/** A request, to be approved by another administrator or dropped by anyone. */
function Proposed({ proposed }: { proposed: NonNullable<ApprovalView["proposed"]> }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const client = useQueryClient();
  const decide = useMutation({
    mutationFn: (isAgreed: boolean) =>
      ask(isAgreed ? docketsOperations.agreeToApproval : docketsOperations.dropProposedApproval, {
        body: proposed.setting,
      }),
    onSuccess: (view) => client.setQueryData(KEY, view),
    onError: () => client.invalidateQueries({ queryKey: KEY }),
  });
  const isOwn = proposed.by === viewer.address;
  return (
    <div className="mb-3">
      <Notice tone="plain">
        {isOwn ? "You" : proposed.by} asked on {dates.zoned(proposed.at)} that approval be needed for:{" "}
        <b>{settingWords(proposed.setting)}</b> {isOwn && "Another administrator has to agree."}
      </Notice>
      <div className="mt-2 flex gap-2">
        {!isOwn && (
          <Button look="act" disabled={decide.isPending} onClick={() => decide.mutate(true)}>
            Agree
          </Button>
        )}
        <Button disabled={decide.isPending} onClick={() => decide.mutate(false)}>
          Withdraw the request
        </Button>
      </div>
      {decide.error && <Notice tone="wrong">{decide.error.message}</Notice>}
    </div>
  );
}

function settingWords({ above, insiders, reason }: ApprovalSetting): string {
  const size = above === null ? "none because of their size" : `dockets of more than ${countWords(above, "change")}`;
  const which = insiders ? `${size}, and those that take access from our own people` : `${size}, and no others`;
  return `${which}; ${reason ? "each needs a reason" : "none needs a reason"}.`;
}
