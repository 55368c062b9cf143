"use client";

import { useState } from "react";
import { AddressesField, readAddresses } from "../parts/AddressesField";
import { Sheet } from "../parts/Sheet";
import { countWords } from "../parts/words";

interface Props {
  count: number;
  onClose: () => void;
  onChoose: (addresses: string[]) => void;
}

/** Asks for whom links shall be from now on. */
export function NamedDialog({ count, onClose, onChoose }: Props) {
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const choose = () => {
    const { addresses, problem } = readAddresses(text);
    setProblem(problem);
    if (problem === null) onChoose(addresses);
  };
  return (
    <Sheet
      isOpen
      title={`Who should ${countWords(count, "link")} be for?`}
      description="Nothing happens yet: this goes into the tray. Where a store can’t change a link, a new one is made and the old one revoked; its new address then has to be sent."
      act="Limit it to these people"
      onClose={onClose}
      onAct={choose}
    >
      <div className="w-[460px]">
        <AddressesField text={text} problem={problem} onText={setText} />
      </div>
    </Sheet>
  );
}
