"use client";

import clsx from "clsx";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { type KeyboardEvent, useState } from "react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { rulesOperations } from "@/contract/rules";
import { RULE_IDS, type RuleId } from "@/core/rules/list";
import type { RuleSetting } from "@/core/rules/mode";
import type { RuleLine, RulesView } from "@/core/rules/view";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { RulePane } from "./RulePane";
import { modeWords, ruleSentence } from "./ruleText";
import { useRules } from "./useRules";

/** What every share must satisfy: each rule as a sentence, and beside it what turning it would mean. */
export function RulesScreen() {
  const { data, error } = useRules();
  const { past } = useStandpoint();
  const [chosen, setChosen] = useQueryState("rule", parseAsStringLiteral(RULE_IDS).withDefault("open-expiry"));
  const [drafts, setDrafts] = useState<Partial<Record<RuleId, RuleSetting>>>({});
  if (error)
    return (
      <div className="p-6">
        <Notice tone="wrong">{error.message}</Notice>
      </div>
    );
  if (!data) return <Loading className="p-6" />;
  const line = data.rules.find(({ id }) => id === chosen)!;
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(420px,520px)_minmax(0,1fr)]">
      <section aria-labelledby="rules" className="flex min-h-0 flex-col border-r border-line-strong bg-raised">
        <div className="flex items-center gap-3 border-b border-line-strong px-4 py-2">
          <h1 id="rules" className="grow font-semibold">
            What every share must satisfy
          </h1>
          <Link href={asOf("/rules/waivers", past)} className="text-verdigris underline">
            Waivers
          </Link>
          <StopSwitch view={data} />
        </div>
        <RuleList rules={data.rules} drafts={drafts} chosen={chosen} onChoose={setChosen} />
      </section>
      <RulePane
        key={`${line.id} ${JSON.stringify(line.parameters)} ${line.mode} ${line.isOn}`}
        line={line}
        draft={drafts[line.id]}
        onDraft={(draft) => setDrafts({ ...drafts, [line.id]: draft ?? undefined })}
      />
    </div>
  );
}

interface ListProps {
  rules: RuleLine[];
  /** Those that somebody has turned and not saved. */
  drafts: Partial<Record<RuleId, RuleSetting>>;
  chosen: RuleId;
  onChoose: (id: RuleId) => void;
}

function RuleList({ rules, drafts, chosen, onChoose }: ListProps) {
  const onKeyDown = (event: KeyboardEvent<HTMLUListElement>) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const buttons = [...event.currentTarget.querySelectorAll("button")];
    const next = buttons[buttons.indexOf(event.target as HTMLButtonElement) + step];
    if (step === 0 || !next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <ul onKeyDown={onKeyDown} className="min-h-0 overflow-y-auto">
      {rules.map((rule) => (
        <li key={rule.id} className="border-b border-line">
          <button
            type="button"
            // One stop of Tab for all of them: arrows go from one to the next.
            tabIndex={rule.id === chosen ? 0 : -1}
            aria-current={rule.id === chosen ? "true" : undefined}
            onClick={() => onChoose(rule.id)}
            className={clsx(
              "flex w-full items-center gap-4 border-l-4 px-3 py-2 text-left",
              rule.id === chosen ? "border-verdigris bg-verdigris-soft" : "border-transparent",
            )}
          >
            <span className={clsx("grow", !rule.isOn && "text-ink-faint")}>
              {ruleSentence(rule.id, rule.parameters)}
            </span>
            <span className="shrink-0 text-right">
              <span className="block font-semibold tabular-nums">
                {rule.isOn ? rule.falls.toLocaleString("en-GB") : ""}
              </span>
              <span className="block text-[12px] text-ink-faint">{modeWords(rule)}</span>
              {drafts[rule.id] && <span className="block text-[12px] text-copper">not saved</span>}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Halts all that rules do by themselves, at once. */
function StopSwitch({ view: { rules, stopped, leftThisHour } }: { view: RulesView }) {
  const dates = useDates();
  const { viewer, past } = useStandpoint();
  const client = useQueryClient();
  const turn = useMutation({
    mutationFn: (isStopped: boolean) => ask(rulesOperations.stopEnforcing, { body: { isStopped } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const enforced = rules.filter(({ isOn, mode }) => isOn && mode === "enforce").length;
  if (!viewer.mayChange || past !== null) return null;
  if (stopped)
    return (
      <span className="flex items-center gap-2">
        <span className="text-[12px] text-oxide">
          Stopped {dates.moment(stopped.at)} by {stopped.by}
        </span>
        <Button onClick={() => turn.mutate(false)}>Allow rules to enforce again</Button>
      </span>
    );
  if (enforced === 0) return null;
  return (
    <Button
      className="text-oxide"
      title={`Rules can make ${leftThisHour} more changes automatically this hour`}
      onClick={() => turn.mutate(true)}
    >
      Stop all enforcement
    </Button>
  );
}
