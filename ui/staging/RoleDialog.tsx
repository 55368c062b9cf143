"use client";

import { useState } from "react";
import type { Role } from "@/core/estate/records";
import { Sheet } from "../parts/Sheet";
import { countWords } from "../parts/words";

const LOWER: { role: Role; words: string }[] = [
  { role: "view", words: "View: look, and download where that is not blocked" },
  { role: "comment", words: "Comment: look and write comments" },
  { role: "edit", words: "Edit: change, but not share onward" },
];

interface Props {
  count: number;
  onClose: () => void;
  onChoose: (role: Role) => void;
}

/** Asks how much shares shall let people do at most. */
export function RoleDialog({ count, onClose, onChoose }: Props) {
  const [role, setRole] = useState<Role>("view");
  return (
    <Sheet
      isOpen
      title={`What should ${countWords(count, "share")} let people do at most?`}
      description="Nothing happens yet: this goes into the tray. Shares that give no more than that already are left as they are, and listed there."
      act="Add the lower role to the docket"
      onClose={onClose}
      onAct={() => onChoose(role)}
    >
      <fieldset className="mb-3">
        <legend className="sr-only">Role</legend>
        {LOWER.map((one) => (
          <label key={one.role} className="flex items-center gap-2 py-0.5">
            <input type="radio" name="role" checked={role === one.role} onChange={() => setRole(one.role)} />
            {one.words}
          </label>
        ))}
      </fieldset>
    </Sheet>
  );
}
