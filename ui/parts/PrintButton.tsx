"use client";

import { Button } from "./Button";

/** Prints the page; it isn't on the paper itself. */
export function PrintButton() {
  return (
    <Button className="on-paper-none" onClick={() => window.print()}>
      Print
    </Button>
  );
}
