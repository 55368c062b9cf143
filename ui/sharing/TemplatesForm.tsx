"use client";

import { useState } from "react";
import { sharingOperations } from "@/contract/sharing";
import { type Label, LABELS } from "@/core/estate/records";
import type { Templates } from "@/core/sharing/templates";
import { type Wish, WISHED_ROLES } from "@/core/sharing/wish";
import { begun } from "@/core/text/text";
import { ask } from "../parts/ask";
import { SettingForm } from "./SettingForm";

const ROLE_WORDS: Record<Wish["role"], string> = { view: "look", comment: "comment", edit: "edit" };

/** What the sentence begins with for items of each label. */
export function TemplatesForm({ first }: { first: Templates }) {
  const [templates, setTemplates] = useState(first);
  const turn = (label: Label, values: Partial<Templates[Label]>) =>
    setTemplates({ ...templates, [label]: { ...templates[label], ...values } });
  return (
    <SettingForm
      title="What a new share begins with"
      save={() => ask(sharingOperations.setTemplates, { body: templates })}
      words="Save the templates"
    >
      <p className="mb-2 max-w-prose text-ink-soft">
        By the label of the item. It can be changed for each share; the rules still apply.
      </p>
      <table className="border-collapse text-left">
        <thead>
          <tr className="text-[12px] text-ink-faint">
            {["Label", "For", "They can", "Days", "Passphrase", "Downloads"].map((head) => (
              <th key={head} className="border-b border-line-strong py-1 pr-6 font-semibold">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {LABELS.map((label) => {
            const { named, role, days, password, download } = templates[label];
            return (
              <tr key={label} className="border-b border-line">
                <th className="py-1.5 pr-6 font-semibold">{begun(label)}</th>
                <td className="py-1 pr-6">
                  <select
                    aria-label={`For, ${label}`}
                    value={named ? "named" : "anyone"}
                    onChange={({ target }) => turn(label, { named: target.value === "named" })}
                    className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
                  >
                    <option value="named">named people</option>
                    <option value="anyone">anyone with the link</option>
                  </select>
                </td>
                <td className="py-1 pr-6">
                  <select
                    aria-label={`They can, ${label}`}
                    value={role}
                    onChange={({ target }) => turn(label, { role: target.value as Wish["role"] })}
                    className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
                  >
                    {WISHED_ROLES.map((one) => (
                      <option key={one} value={one}>
                        {ROLE_WORDS[one]}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="py-1 pr-6">
                  <input
                    aria-label={`Days, ${label}`}
                    type="number"
                    min={1}
                    max={3650}
                    value={days}
                    onChange={({ target }) => turn(label, { days: Number(target.value) })}
                    className="h-[30px] w-20 rounded-[3px] border border-control bg-raised px-2"
                  />
                </td>
                <td className="py-1 pr-6">
                  <input
                    type="checkbox"
                    aria-label={`Passphrase, ${label}`}
                    disabled={named}
                    checked={!named && password}
                    onChange={({ target }) => turn(label, { password: target.checked })}
                  />
                </td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Downloads, ${label}`}
                    checked={download}
                    onChange={({ target }) => turn(label, { download: target.checked })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </SettingForm>
  );
}
