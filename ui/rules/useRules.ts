"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { rulesOperations } from "@/contract/rules";
import type { RuleId } from "@/core/rules/list";
import type { RuleSetting } from "@/core/rules/mode";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";

/** All rules as they are set, with what they find. */
export function useRules() {
  const { past } = useStandpoint();
  return useQuery({
    ...asked(rulesOperations.rules, { past }),
  });
}

/** What a rule would find as it is turned; what was found last stays until then. */
export function useTrial(rule: RuleId, parameters: RuleSetting["parameters"]) {
  const { past } = useStandpoint();
  return useQuery({
    ...asked(rulesOperations.tryRule, { body: { rule, parameters }, past }),
    placeholderData: (before) => before,
    retry: false,
  });
}

/** Sets a rule, and looks at what it would do set so; the look gives the pass that a stricter mode takes. */
export function useRuleChange(rule: RuleId) {
  const client = useQueryClient();
  const set = useMutation({
    mutationFn: ({ setting, pass }: { setting: RuleSetting; pass: string | null }) =>
      ask(rulesOperations.setRule, { params: { id: rule }, body: { setting, pass } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const look = useMutation({
    mutationFn: (setting: RuleSetting) => ask(rulesOperations.previewRule, { body: { rule, setting } }),
  });
  return { set, look };
}
