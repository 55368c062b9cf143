"use client";

import { type ReactNode, useState } from "react";
import type { Change } from "@/core/changes/change";
import type { Seconds } from "@/core/time/instant";
import { useTray } from "../frame/useTray";
import { EndDateDialog } from "./EndDateDialog";
import { NamedDialog } from "./NamedDialog";
import { RoleDialog } from "./RoleDialog";
import { WaiveDialog, type Waived } from "./WaiveDialog";

/** What somebody may have to add before a change is complete. */
export type Asks = "end" | "addresses" | "role";
type Asking = { kind: Asks; ids: string[] } | { kind: "waiver"; waived: Waived };

/** The ways to tighten some shares, each of which goes into the tray; and leave for them to stay as they are. */
export interface Staging {
  stage: (changes: Change[]) => void;
  revoke: (ids: string[]) => void;
  /** For those that have none; or, where that is said, in the place of those that there are. */
  password: (ids: string[], replace?: boolean) => void;
  block: (ids: string[]) => void;
  /** All links that let nobody in any more, wherever they are. */
  clear: () => void;
  /** Asks for what is still to be chosen. */
  ask: (kind: Asks, ids: string[]) => void;
  waive: (waived: Waived) => void;
  /** What is being asked; to be put on the screen. */
  dialog: ReactNode;
}

/**
 * @param query that found what is staged: the docket can be called after it
 * @param onDone is told when something was staged or waived; of a waiver what came of it
 */
export function useStaging(now: Seconds, query: string, onDone: (words: string | null) => void): Staging {
  const { stage } = useTray();
  const [asking, setAsking] = useState<Asking | null>(null);
  const close = () => setAsking(null);
  const stageAll = (changes: Change[]) => {
    stage.mutate({ changes, query });
    close();
    onDone(null);
  };
  const all = (ids: string[], change: (shareId: string) => Change) => stageAll(ids.map(change));
  return {
    stage: stageAll,
    revoke: (ids) => all(ids, (shareId) => ({ action: "revoke", shareId })),
    password: (ids, replace = false) =>
      all(ids, (shareId) => ({ action: "set-password", shareId, ...(replace && { replace }) })),
    block: (ids) => all(ids, (shareId) => ({ action: "block-download", shareId })),
    clear: () => {
      stage.mutate([{ action: "clear" }]);
      onDone(null);
    },
    ask: (kind, ids) => setAsking({ kind, ids }),
    waive: (waived) => setAsking({ kind: "waiver", waived }),
    dialog: dialogOf(asking),
  };

  function dialogOf(asking: Asking | null): ReactNode {
    if (asking === null) return null;
    if (asking.kind === "waiver") {
      const done = (words: string) => {
        close();
        onDone(words);
      };
      return <WaiveDialog waived={asking.waived} now={now} onClose={close} onDone={done} />;
    }
    const { kind, ids } = asking;
    const common = { count: ids.length, onClose: close };
    if (kind === "end") {
      const onChoose = (expiresAt: string, later: boolean) =>
        all(ids, (shareId) => ({ action: "set-expiry", shareId, expiresAt, ...(later && { later, reopen: later }) }));
      return <EndDateDialog ids={ids} onClose={close} now={now} onChoose={onChoose} />;
    }
    if (kind === "addresses") {
      const onChoose = (addresses: string[]) => all(ids, (shareId) => ({ action: "narrow", shareId, addresses }));
      return <NamedDialog {...common} onChoose={onChoose} />;
    }
    return (
      <RoleDialog {...common} onChoose={(role) => all(ids, (shareId) => ({ action: "set-role", shareId, role }))} />
    );
  }
}
