"use client";

import clsx from "clsx";
import { useEffect, useRef } from "react";
import type { Action } from "@/core/changes/change";
import type { Preview } from "@/core/preview/preview";
import type { StagedChange } from "@/core/changes/states";
import type { TrayView } from "@/core/preview/docketView";
import { Button } from "../parts/Button";
import { changeWords } from "@/core/changes/changeWords";
import { countWords } from "../parts/words";
import { PreviewParts } from "./PreviewParts";
import { useTray } from "./useTray";

const MOST_SHOWN = 100;
/** What takes access away now, and not only makes it stricter. */
const ENDS: Action[] = ["revoke", "drop-recipient", "leave-group", "stop-inheriting"];

/** The tray, open: the changes by kind at the left, what they would really do at the right. */
export function TrayPanel({ tray, preview, onClose }: { tray: TrayView; preview: Preview; onClose: () => void }) {
  // Whoever opens it by key goes on within it.
  const panel = useRef<HTMLElement>(null);
  useEffect(() => panel.current?.focus(), []);
  return (
    <section
      ref={panel}
      tabIndex={-1}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        onClose();
      }}
      aria-label="Staged changes"
      className="grid max-h-[60vh] overflow-y-auto lg:h-[min(60vh,460px)] lg:grid-cols-[440px_1fr] lg:grid-rows-[minmax(0,1fr)] border-t border-line-strong bg-surface text-ink"
    >
      <Changes changes={tray.changes} careful={preview.careful} />
      <PreviewParts preview={preview} />
    </section>
  );
}

function Changes({ changes, careful }: { changes: StagedChange[]; careful: Preview["careful"] }) {
  const { unstage } = useTray();
  return (
    <div className="flex min-h-0 flex-col border-r border-line-strong">
      <div className="flex items-center justify-between px-3.5 py-2">
        <h2 className="font-semibold">{countWords(changes.length, "change")} staged</h2>
        <Button onClick={() => unstage.mutate(null)}>Remove all</Button>
      </div>
      {careful.insiders.length + careful.running.length > 0 && (
        <div className="flex flex-wrap gap-2 border-t border-line px-3.5 py-2">
          {careful.insiders.length > 0 && (
            <Button onClick={() => unstage.mutate(careful.insiders)}>
              Remove {careful.insiders.length} that take access from our own people
            </Button>
          )}
          {careful.running.length > 0 && (
            <Button onClick={() => unstage.mutate(careful.running)}>
              Remove {careful.running.length} that running projects need
            </Button>
          )}
        </div>
      )}
      <ul className="overflow-y-auto border-t border-line">
        {changes.slice(0, MOST_SHOWN).map((one) => (
          <li key={one.subject} className="flex items-center gap-3 border-b border-line px-3.5 py-1.5">
            <span
              className={clsx(
                "w-[124px] shrink-0 font-semibold",
                ENDS.includes(one.change.action) ? "text-oxide" : "text-verdigris",
              )}
            >
              {changeWords(one.change)}
            </span>
            <span className="min-w-0 grow">
              <span className="block truncate">{one.itemName}</span>
              <span className="block truncate text-[12px] text-ink-faint">{one.audience}</span>
            </span>
            <button
              type="button"
              aria-label={`Remove ${one.itemName} from the tray`}
              onClick={() => unstage.mutate([one.subject])}
              className="whitespace-nowrap text-verdigris underline"
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
      {changes.length > MOST_SHOWN && <p className="px-3.5 py-2 text-ink-faint">The first {MOST_SHOWN} are shown.</p>}
    </div>
  );
}
