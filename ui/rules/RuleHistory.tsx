"use client";

import { useQuery } from "@tanstack/react-query";
import { rulesOperations } from "@/contract/rules";
import type { RuleId } from "@/core/rules/list";
import { useDates } from "../parts/useDates";
import { modeWords, ruleSentence } from "./ruleText";
import { asked } from "../parts/ask";

/** How a rule came to be as it is. */
export function RuleHistory({ rule }: { rule: RuleId }) {
  const dates = useDates();
  const { data } = useQuery({
    ...asked(rulesOperations.ruleHistory, { params: { id: rule } }),
  });
  if (!data) return null;
  return (
    <section className="mt-5">
      <h3 className="font-semibold">Changes to this rule</h3>
      <ul>
        {data.changes.map(({ setting, by, at }, n) => (
          <li key={n} className="border-t border-line py-1">
            {ruleSentence(rule, setting.parameters)} <b className="font-semibold">{modeWords(setting)}</b>
            {setting.parameters.scope !== undefined && ", for some of the shares"}
            <span className="block text-[12.5px] text-ink-faint">
              {dates.moment(at)}, by {by}
            </span>
          </li>
        ))}
        <li className="border-t border-line py-1 text-ink-faint">Default</li>
      </ul>
    </section>
  );
}
