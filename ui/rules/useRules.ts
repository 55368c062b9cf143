"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { RuleId } from "@/core/rules/ruleWords";
import type { RuleSetting } from "@/core/rules/mode";
import type { RulesView, RuleTrial } from "@/core/rules/view";
import type { RulePreview } from "@/core/rules/preview";
import { asOf, useStandpoint } from "../frame/viewer";
import { api } from "../parts/api";

/** All rules as they are set, with what they find. */
export function useRules() {
  const { past } = useStandpoint();
  return useQuery({
    queryKey: ["rules", past],
    queryFn: ({ signal }) => api<RulesView>(asOf("/api/rules", past), { signal }),
  });
}

/** What a rule would find as it is turned; what was found last stays until then. */
export function useTrial(rule: RuleId, parameters: RuleSetting["parameters"]) {
  const { past } = useStandpoint();
  return useQuery({
    queryKey: ["rules", "try", rule, parameters, past],
    queryFn: ({ signal }) =>
      api<RuleTrial>(asOf("/api/rules/try", past), { method: "POST", body: { rule, parameters }, signal }),
    placeholderData: (before) => before,
    retry: false,
  });
}

/** Sets a rule, and looks at what it would do set so; the look gives the pass that a stricter mode takes. */
export function useRuleChange(rule: RuleId) {
  const client = useQueryClient();
  const set = useMutation({
    mutationFn: ({ setting, pass }: { setting: RuleSetting; pass: string | null }) =>
      api(`/api/rules/${rule}`, { method: "PUT", body: { setting, pass } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const look = useMutation({
    mutationFn: (setting: RuleSetting) =>
      api<{ preview: RulePreview; pass: string }>("/api/rules/preview", { method: "POST", body: { rule, setting } }),
  });
  return { set, look };
}
