"use client";

import { rulesOperations } from "@/contract/rules";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { RULE_IDS, RULES, type RuleId } from "@/core/rules/list";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { ask } from "../parts/ask";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";
import { useMoment } from "../parts/useMoment";
import { countWords } from "../parts/words";

/** What leave is given to: some shares, or all that a query finds. */
export type Waived = { shareIds: string[] } | { query: string; found: number };

interface Props {
  waived: Waived;
  now: Seconds;
  onClose: () => void;
  onDone: (words: string) => void;
}

/** Gives many shares leave to break a rule: it takes a reason and an end. */
export function WaiveDialog({ waived, now, onClose, onDone }: Props) {
  const [rule, setRule] = useState<RuleId | "all">("all");
  const [reason, setReason] = useState("");
  const until = useMoment("in 30 days", { now, edge: "end", min: now });
  const client = useQueryClient();
  const give = useMutation({
    mutationFn: () =>
      ask(rulesOperations.giveWaivers, {
        body: {
          ...("query" in waived ? { query: waived.query } : { shareIds: [...waived.shareIds] }),
          rules: rule === "all" ? null : [rule],
          reason,
          until: rfc3339(until.at!),
        },
      }),
    onSuccess: ({ given }) => {
      void client.invalidateQueries();
      onDone(
        given === 0 ? "None of them breaks that rule. Nothing was waived." : `${countWords(given, "finding")} waived.`,
      );
    },
  });
  const count = "query" in waived ? waived.found : waived.shareIds.length;
  return (
    <Sheet
      isOpen
      title={`Waive the findings of ${countWords(count, "share")}?`}
      description={`${"query" in waived ? "Everything the query finds now. " : ""}A waiver silences a finding for a stated reason until a set date. It stays visible and ends automatically.`}
      act="Waive"
      isBusy={give.isPending}
      onClose={onClose}
      onAct={() => give.mutate()}
    >
      <div className="grid grow gap-x-6 lg:grid-cols-[280px_1fr_260px]">
        <div>
          <label htmlFor="waive-rule" className="mb-1 block font-semibold">
            Rule
          </label>
          <select
            id="waive-rule"
            value={rule}
            onChange={(event) => setRule(event.target.value as RuleId | "all")}
            className="h-9 w-full rounded-[3px] border border-control bg-raised px-1"
          >
            <option value="all">Every rule they break</option>
            {RULE_IDS.map((id) => (
              <option key={id} value={id}>
                {RULES[id].title}
              </option>
            ))}
          </select>
        </div>
        <Field
          label="Reason"
          required
          minLength={3}
          maxLength={500}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <MomentField label="Until" moment={until} />
        {give.error && <Notice tone="wrong">{give.error.message}</Notice>}
      </div>
    </Sheet>
  );
}
