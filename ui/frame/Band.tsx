"use client";

import clsx from "clsx";
import { usePathname, useRouter } from "next/navigation";
import { useState } from "react";
import type { Seconds } from "@/core/time/instant";
import { useKeys } from "../parts/useKeys";
import { signOut } from "../parts/signOut";
import { Brand } from "./Brand";
import { KeysSheet } from "./KeysSheet";
import { Palette } from "./Palette";
import { SECTIONS } from "./screens";
import { TimeControl } from "./TimeControl";
import { asOf, helpFor, useStandpoint } from "./viewer";
import { Link } from "../parts/Link";

export function Band({ present, onPast }: { present: Seconds; onPast: (at: string | null) => void }) {
  const path = usePathname();
  const { viewer, past } = useStandpoint();
  const router = useRouter();
  const [areKeysShown, setKeysShown] = useState(false);
  const [isFinding, setFinding] = useState(false);
  useKeys({
    ...Object.fromEntries(SECTIONS.map(([, target], n) => [String(n + 1), () => router.push(asOf(target, past))])),
    "?": () => setKeysShown(true),
  });
  return (
    <header className="on-band flex flex-wrap items-center bg-band px-3.5 text-band-ink">
      <span className="mr-4">
        <Brand />
      </span>
      <nav aria-label="Sections" className="flex flex-wrap">
        {SECTIONS.map(([name, target]) => {
          const isHere = path.startsWith(target);
          return (
            <Link
              key={name}
              href={asOf(target, past)}
              aria-current={isHere ? "page" : undefined}
              className={clsx(
                "px-2 leading-10 xl:px-3",
                isHere && "font-semibold text-white shadow-[inset_0_-3px_0_var(--band-act)]",
              )}
            >
              {name}
            </Link>
          );
        })}
      </nav>
      <span className="grow" />
      <button type="button" title="Ctrl and K" onClick={() => setFinding(true)} className="px-2 leading-10 xl:px-3">
        Find
      </button>
      <Palette
        present={present}
        isOpen={isFinding}
        onOpen={setFinding}
        onKeys={() => setKeysShown(true)}
        onPast={onPast}
      />
      <button type="button" onClick={() => setKeysShown(true)} className="px-2 leading-10 xl:px-3">
        Keys
      </button>
      <KeysSheet isOpen={areKeysShown} onClose={() => setKeysShown(false)} />
      <Link href={helpFor(path, past)} className="px-2 leading-10 xl:px-3">
        Help
      </Link>
      <TimeControl present={present} onPast={onPast} />
      <Link href="/account" title="Your account" className="border-l border-band-line px-2 leading-10 xl:px-3">
        {viewer.name}
      </Link>
      <button type="button" onClick={signOut} className="border-l border-band-line pl-3 leading-10 max-xl:hidden">
        Sign out
      </button>
    </header>
  );
}
