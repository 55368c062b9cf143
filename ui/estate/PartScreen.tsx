"use client";

import type { ReactNode } from "react";
import { useStandpoint } from "../frame/viewer";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";

interface Props {
  /** Whether only those who may change something have anything to see here. */
  forAdministrators?: boolean;
  children: ReactNode;
}

/** One part of the Estate on a screen of its own. */
export function PartScreen({ forAdministrators, children }: Props) {
  const { viewer, past } = useStandpoint();
  if (past !== null) return <OfNow />;
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      {forAdministrators && !viewer.mayChange ? <Notice>Only administrators see this.</Notice> : children}
    </div>
  );
}
