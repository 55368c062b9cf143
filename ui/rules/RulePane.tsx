"use client";

import { useState } from "react";
import type { RulePreview } from "@/core/rules/preview";
import { RULES } from "@/core/rules/list";
import type { Scope } from "@/core/rules/scope";
import { MODES, type RuleSetting } from "@/core/rules/mode";
import type { RuleLine, RuleTrial } from "@/core/rules/view";
import { SEVERITIES, type Severity } from "@/core/rules/severity";
import { asOf, useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { countWords, plainWords } from "../parts/words";
import type { AnswerOf } from "@/contract/operation";
import type { rulesOperations } from "@/contract/rules";
import { MailsPreview } from "./MailsPreview";
import { RuleChart } from "./RuleChart";
import { RuleHistory } from "./RuleHistory";
import { RuleMode } from "./RuleMode";
import { RuleScope } from "./RuleScope";
import { RuleSentence } from "./RuleSentence";
import { useRuleChange, useTrial } from "./useRules";

const ON_ITEMS = ["block-bypassed", "link-pile"];

interface Props {
  line: RuleLine;
  /** As somebody has turned it and not yet saved it. */
  draft: RuleSetting | undefined;
  onDraft: (draft: RuleSetting | null) => void;
}

/** One rule: its sentence to be turned, what that would find, what becomes of it, and how it came to be so. */
export function RulePane({ line, draft: begun, onDraft }: Props) {
  const { viewer, past } = useStandpoint();
  const kept: RuleSetting = settingOf(line);
  const draft = begun ?? kept;
  const setDraft = (next: RuleSetting) => onDraft(JSON.stringify(next) === JSON.stringify(kept) ? null : next);
  const [seen, setSeen] = useState<(AnswerOf<(typeof rulesOperations)["previewRule"]> & { of: string }) | null>(null);
  const trial = useTrial(line.id, draft.parameters);
  const { set, look } = useRuleChange(line.id);
  const mayChange = viewer.mayChange && past === null;
  const isChanged = JSON.stringify(draft) !== JSON.stringify(kept);
  const isStricter = draft.isOn && MODES.indexOf(draft.mode) > (kept.isOn ? MODES.indexOf(kept.mode) : 0);
  const isSeen = seen?.of === JSON.stringify(draft);
  const problem = set.error ?? look.error ?? trial.error;
  const turn = (parameters: RuleSetting["parameters"]) => setDraft({ ...draft, parameters });
  return (
    <section aria-label={RULES[line.id].title} className="min-h-0 overflow-y-auto bg-surface px-6 py-4">
      <RuleSentence rule={line.id} parameters={draft.parameters} mayChange={mayChange} onTurn={turn} />
      <RuleScope
        scope={(draft.parameters.scope ?? {}) as Scope}
        isOnItems={ON_ITEMS.includes(line.id)}
        mayChange={mayChange}
        onTurn={(scope) => turn({ ...draft.parameters, scope })}
      />
      {trial.data && <RuleChart trial={trial.data} />}
      {trial.data && <Figures trial={trial.data} isOnItems={ON_ITEMS.includes(line.id)} />}
      {trial.data && trial.data.problems.length > 0 && <Notice tone="wrong">{trial.data.problems.join(" ")}</Notice>}
      <p className="mt-2">
        <Link
          href={asOf(`/register?${new URLSearchParams({ q: `rule:${line.id}` })}`, past)}
          className="text-verdigris underline"
        >
          {countWords(line.falls, "finding")} with its current settings
        </Link>
        {line.waived > 0 && (
          <>
            ,{" "}
            <Link href={asOf("/rules/waivers", past)} className="text-verdigris underline">
              {line.waived.toLocaleString("en-GB")} waived
            </Link>
          </>
        )}
        {line.asked > 0 && `, ${line.asked.toLocaleString("en-GB")} waiting for their owners`}.
      </p>
      {mayChange && (
        <div className="mt-4 border-t border-line-strong pt-3">
          <div className="flex items-center gap-6">
            <label className="flex items-center gap-2 font-semibold">
              <input
                type="checkbox"
                checked={draft.isOn}
                onChange={() => setDraft({ ...draft, isOn: !draft.isOn })}
                className="accent-verdigris"
              />
              On
            </label>
            <label className="flex items-center gap-2">
              Severity
              <select
                value={draft.parameters.severity as Severity}
                onChange={(event) => turn({ ...draft.parameters, severity: event.target.value })}
                className="h-[30px] rounded-[3px] border border-control bg-raised px-1"
              >
                {SEVERITIES.map((one) => (
                  <option key={one} value={one}>
                    {one}
                  </option>
                ))}
              </select>
            </label>
          </div>
          {draft.isOn && <RuleMode setting={draft} onTurn={setDraft} />}
          {isSeen && <PreviewWords preview={seen.preview} />}
          {isSeen && draft.mode !== "observe" && <MailsPreview mails={seen.mails} pilot={draft.pilot} />}
          {problem && <Notice tone="wrong">{problem.message}</Notice>}
          <div className="mt-3 flex gap-2">
            {isStricter && !isSeen ? (
              <Button
                look="act"
                disabled={look.isPending}
                onClick={() =>
                  look.mutate(draft, { onSuccess: (seen) => setSeen({ ...seen, of: JSON.stringify(draft) }) })
                }
              >
                {look.isPending ? "Working it out…" : "Preview what that would do"}
              </Button>
            ) : (
              <Button
                look="act"
                disabled={!isChanged || set.isPending}
                onClick={() =>
                  set.mutate({ setting: draft, pass: isSeen ? seen.pass : null }, { onSuccess: () => onDraft(null) })
                }
              >
                {isStricter ? `Save and ${draft.mode}` : "Save the rule"}
              </Button>
            )}
            <Button disabled={!isChanged} onClick={() => onDraft(null)}>
              Revert
            </Button>
          </div>
        </div>
      )}
      <RuleHistory rule={line.id} />
    </section>
  );
}

function settingOf({ isOn, mode, graceDays, pilot, parameters }: RuleLine): RuleSetting {
  return { isOn, mode, graceDays, ...(pilot !== undefined && { pilot }), parameters };
}

function Figures({ trial, isOnItems }: { trial: RuleTrial; isOnItems: boolean }) {
  const figures: [number, string][] = isOnItems
    ? [[trial.items, "items break it"]]
    : [
        [trial.shares, "shares break it"],
        [trial.owners, "owners"],
        // Of whoever holds an open link's address nobody knows.
        ...(trial.outsiders === 0
          ? []
          : ([
              [trial.outsiders, "outsiders"],
              [trial.organisations, "organisations"],
            ] as [number, string][])),
      ];
  return (
    <dl aria-live="polite" className="mt-3 grid grid-cols-4 border-y border-line py-2">
      {figures.map(([count, words]) => (
        <div key={words} className="flex flex-col-reverse">
          <dt className="text-ink-soft">{words}</dt>
          <dd className="text-[20px] font-semibold tabular-nums">{count.toLocaleString("en-GB")}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What the rule would do to all that breaks it now, were nobody to answer. */
function PreviewWords({ preview }: { preview: RulePreview }) {
  const { words, remedied, previewed, unremedied, insiders } = preview;
  return (
    <div role="status" className="mt-3 max-w-prose border-l-[3px] border-copper bg-copper-soft px-3 py-2">
      <b className="font-semibold">If no owner answers:</b> {words}
      {previewed < remedied && ` These are the first ${previewed} of ${remedied.toLocaleString("en-GB")} findings.`}
      {unremedied > 0 && ` ${countWords(unremedied, "finding")} can only be fixed by hand.`}
      {insiders > 0 && ` ${plainWords(countWords(insiders, "insider"))} would lose access: check who it applies to.`}
    </div>
  );
}
