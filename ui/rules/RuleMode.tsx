"use client";

import { MODES, type Mode, type RuleSetting } from "@/core/rules/mode";
import { Field } from "../parts/Field";

const WORDS: Record<Mode, { title: string; words: string }> = {
  observe: { title: "Observe", words: "Count findings and do nothing." },
  ask: {
    title: "Ask",
    words: "Tell the owner. After the grace period, a docket is ready for an administrator to review.",
  },
  enforce: { title: "Enforce", words: "Tell the owner. After the grace period, the docket is applied automatically." },
};

/** Enough to hear what is unclear, and few enough to talk to. */
const FIRST_PILOT = 5;

interface Props {
  setting: RuleSetting;
  onTurn: (setting: RuleSetting) => void;
}

/** What becomes of what breaks a rule. */
export function RuleMode({ setting, onTurn }: Props) {
  return (
    <div className="mt-2 flex items-start gap-8">
      <fieldset>
        <legend className="sr-only">Mode</legend>
        {MODES.map((mode) => (
          <label key={mode} className="flex items-baseline gap-2 py-0.5">
            <input
              type="radio"
              name="mode"
              checked={setting.mode === mode}
              onChange={() => onTurn({ ...setting, mode })}
              className="accent-verdigris"
            />
            <span>
              <b className="font-semibold">{WORDS[mode].title}.</b> {WORDS[mode].words}
            </span>
          </label>
        ))}
      </fieldset>
      {setting.mode !== "observe" && (
        <div className="w-36">
          <Field
            label="Grace period in days"
            type="number"
            min={1}
            max={90}
            value={Number.isNaN(setting.graceDays) ? "" : setting.graceDays}
            onChange={(event) => onTurn({ ...setting, graceDays: event.target.valueAsNumber })}
          />
        </div>
      )}
      {setting.mode !== "observe" && (
        <div className="w-56">
          <label className="flex items-center gap-2 font-semibold">
            <input
              type="checkbox"
              checked={setting.pilot !== undefined}
              onChange={(event) => onTurn({ ...setting, pilot: event.target.checked ? FIRST_PILOT : undefined })}
              className="accent-verdigris"
            />
            Ask only some owners first
          </label>
          {setting.pilot !== undefined && (
            <Field
              label="How many owners"
              type="number"
              min={1}
              max={1_000}
              value={Number.isNaN(setting.pilot) ? "" : setting.pilot}
              onChange={(event) => onTurn({ ...setting, pilot: event.target.valueAsNumber })}
              hint="The others are asked once this is switched off."
            />
          )}
        </div>
      )}
    </div>
  );
}
