import { RULES, type RuleId } from "@/core/rules/list";
import type { RuleSetting } from "@/core/rules/mode";
import { countWords } from "../parts/words";

/** A rule's sentence in pieces: what is said, and the names of the slots in it. */
export function sentencePieces(rule: RuleId): { text: string; isSlot: boolean }[] {
  return RULES[rule].sentence
    .split(/(\[\w+\])/)
    .filter(Boolean)
    .map((piece) =>
      piece.startsWith("[") ? { text: piece.slice(1, -1), isSlot: true } : { text: piece, isSlot: false },
    );
}

/** What stands in a slot, in words. */
export function slotWords(value: unknown): string {
  if (!Array.isArray(value)) return String(value);
  if (value.length === 0) return "no";
  return value.length === 1 ? value[0] : `${value.slice(0, -1).join(", ")} or ${value.at(-1)}`;
}

/** A rule as it is set, in one sentence. */
export function ruleSentence(rule: RuleId, parameters: RuleSetting["parameters"]): string {
  return sentencePieces(rule)
    .map(({ text, isSlot }) => (isSlot ? slotWords(parameters[text]) : text))
    .join("");
}

/** What becomes of what breaks a rule, in two or three words. */
export function modeWords({ isOn, mode, graceDays }: RuleSetting): string {
  if (!isOn) return "off";
  return mode === "observe" ? "observe" : `${mode}, ${countWords(graceDays, "day")} of grace`;
}
