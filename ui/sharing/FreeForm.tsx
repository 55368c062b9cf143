"use client";

import { useState } from "react";
import { sharingOperations } from "@/contract/sharing";
import { LABELS } from "@/core/estate/records";
import type { FreeRequests } from "@/core/sharing/templates";
import { ask } from "../parts/ask";
import { SettingForm } from "./SettingForm";

const STANDARD: NonNullable<FreeRequests> = { labels: ["public"], maxDays: 30, named: true };

/** Which requests need nobody’s approval. */
export function FreeForm({ first }: { first: FreeRequests }) {
  const [free, setFree] = useState(first);
  return (
    <SettingForm
      title="Requests that need nobody’s approval"
      save={() => ask(sharingOperations.setFreeRequests, { body: { free } })}
      words="Save"
      isOff={free?.labels.length === 0}
    >
      <p className="mb-2 max-w-prose text-ink-soft">
        Only those that break no rule, and go to addresses without a warning. All others wait for an administrator.
      </p>
      <div className="space-y-2">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={free !== null}
            onChange={({ target }) => setFree(target.checked ? STANDARD : null)}
          />
          Approve some of them automatically
        </label>
        {free && (
          <div className="ml-6 flex flex-wrap items-center gap-x-5 gap-y-2">
            {LABELS.map((label) => (
              <label key={label} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={free.labels.includes(label)}
                  onChange={({ target }) =>
                    setFree({
                      ...free,
                      labels: LABELS.filter((one) => (one === label ? target.checked : free.labels.includes(one))),
                    })
                  }
                />
                {label}
              </label>
            ))}
            <label className="flex items-center gap-2">
              for at most
              <input
                type="number"
                min={1}
                max={3650}
                value={free.maxDays}
                onChange={({ target }) => setFree({ ...free, maxDays: Number(target.value) })}
                className="h-[30px] w-20 rounded-[3px] border border-control bg-raised px-2"
              />
              days
            </label>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={free.named}
                onChange={({ target }) => setFree({ ...free, named: target.checked })}
              />
              for named people only
            </label>
          </div>
        )}
      </div>
    </SettingForm>
  );
}
