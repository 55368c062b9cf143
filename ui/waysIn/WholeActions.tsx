"use client";

import { useState } from "react";
import type { Intent } from "@/core/changes/intent";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Finder } from "../parts/Finder";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";

/** What stands on the page: an item, a person, or everybody of an organisation. */
export type Whole =
  | { kind: "item"; id: string; name: string }
  | { kind: "person"; address: string; name: string; insider: boolean }
  | { kind: "organisation"; organisation: string };

/** What can be staged of all at once: an item sealed or handed over, somebody cut off everywhere. */
export function WholeActions({ whole }: { whole: Whole }) {
  const { viewer, past } = useStandpoint();
  const { stage } = useTray();
  const [isHanding, setHanding] = useState(false);
  if (!viewer.mayChange || past !== null) return null;
  const staged = (intent: Intent) => stage.mutate([intent]);
  const mayHandOver = whole.kind === "item" || (whole.kind === "person" && whole.insider);
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      {whole.kind === "item" ? (
        <>
          <Link
            href={`/share?item=${encodeURIComponent(whole.id)}`}
            className="inline-flex h-[30px] items-center rounded-[3px] border border-control bg-raised px-3"
          >
            Share it…
          </Link>
          <Button onClick={() => staged({ action: "seal", itemId: whole.id, below: false })}>
            Close all shares on it
          </Button>
          <Button onClick={() => staged({ action: "seal", itemId: whole.id, below: true })}>
            Close all shares on it, and on everything below
          </Button>
        </>
      ) : (
        <Button className="text-oxide" onClick={() => staged(cutOffOf(whole))}>
          End all access everywhere
        </Button>
      )}
      {mayHandOver && (
        <Button onClick={() => setHanding(true)}>
          {whole.kind === "item" ? "Hand it over" : "Hand over everything they own"}
        </Button>
      )}
      <p role="status" className="text-ink-soft">
        {stage.isSuccess && "It’s in the tray, with every change it needs."}
      </p>
      {stage.error && <Notice tone="wrong">{stage.error.message}</Notice>}
      {isHanding && (
        <HandOver
          whole={whole}
          onClose={() => setHanding(false)}
          onChoose={(address) => {
            setHanding(false);
            staged(
              whole.kind === "item"
                ? { action: "hand-over", itemId: whole.id, address, links: [] }
                : { action: "hand-over-all", from: (whole as Extract<Whole, { kind: "person" }>).address, address },
            );
          }}
        />
      )}
    </div>
  );
}

function cutOffOf(whole: Exclude<Whole, { kind: "item" }>): Intent {
  return whole.kind === "person"
    ? { action: "cut-off", address: whole.address }
    : { action: "cut-off-organisation", organisation: whole.organisation };
}

interface HandOverProps {
  whole: Whole;
  onClose: () => void;
  onChoose: (address: string) => void;
}

/** Asks who is to be the owner from now on. */
function HandOver({ whole, onClose, onChoose }: HandOverProps) {
  const [to, setTo] = useState("");
  const name = whole.kind === "organisation" ? whole.organisation : whole.name;
  return (
    <Sheet
      isOpen
      title={whole.kind === "item" ? `Hand ${name} to` : `Hand ${name}\u2019s items to`}
      description="Nothing happens yet: this goes into the tray. Links that the owner made on it are handed over too."
      act="Stage it"
      isBusy={to === ""}
      onClose={onClose}
      onAct={() => onChoose(to)}
    >
      <div className="mb-3">
        <Finder
          label="New owner"
          placeholder="name or address"
          kinds={["owner"]}
          value={to}
          onPick={(subject) => setTo(subject?.id ?? "")}
        />
      </div>
    </Sheet>
  );
}
