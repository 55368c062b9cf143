"use client";

import { useState } from "react";
import { z } from "zod";
import { Sheet } from "../parts/Sheet";
import { countWords } from "../parts/words";

const address = z.email();

/** The addresses in a text, one a line or with commas between; and what in it is none. */
export function readAddresses(text: string): { addresses: string[]; wrong: string[] } {
  const given = [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
  const isAddress = (one: string) => address.safeParse(one).success;
  return { addresses: given.filter(isAddress), wrong: given.filter((one) => !isAddress(one)) };
}

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
    const { addresses, wrong } = readAddresses(text);
    if (wrong.length > 0) setProblem(`${wrong.join(", ")}: not an e-mail address such as ada@quay.example.`);
    else if (addresses.length === 0) setProblem("Name at least one address.");
    else onChoose(addresses);
  };
  return (
    <Sheet
      isOpen
      title={`For whom shall ${countWords(count, "link")} be?`}
      description="Nothing happens yet: it goes into the tray. Where a store can't change a link, a new one is made for them and the old one revoked; the new address then has to be sent."
      act="Stage it for them alone"
      onClose={onClose}
      onAct={choose}
    >
      <div className="mb-3 w-[460px]">
        <label htmlFor="named-addresses" className="mb-1 block font-semibold">
          Addresses, one a line
        </label>
        <textarea
          id="named-addresses"
          rows={3}
          value={text}
          aria-describedby={problem ? "named-problem" : undefined}
          onChange={(event) => setText(event.target.value)}
          className="block w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5 font-mono text-[13px]"
        />
        {problem && (
          <p id="named-problem" role="alert" className="mt-1 text-oxide">
            {problem}
          </p>
        )}
      </div>
    </Sheet>
  );
}
