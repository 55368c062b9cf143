import { useState } from "react";
import type { Welcome } from "@/contract/people";
import { Button } from "../parts/Button";
import { useDates } from "../parts/useDates";

interface Props {
  welcome: Welcome;
  email: string;
  onClose: () => void;
}

/** The address where somebody chooses a password: shown once, to be handed over where no mail could be sent. */
export function WelcomeAddress({ welcome: { address, until, isMailed, mailProblem }, email, onClose }: Props) {
  const dates = useDates();
  const [isCopied, setCopied] = useState(false);
  return (
    <div role="status" className="max-w-3xl border-l-4 border-verdigris bg-surface px-4 py-3">
      <p>
        {isMailed
          ? `It has been mailed to ${email}.`
          : `Give this address to the person at ${email} in a way you trust.`}{" "}
        It works once, for choosing a password, until {dates.zoned(until)}.
        {mailProblem && <span className="block text-oxide">It could not be mailed: {mailProblem}</span>}
      </p>
      <p className="my-2 font-mono text-[12.5px] break-all select-all">{address}</p>
      <div className="flex items-center gap-2">
        <Button onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>Copy</Button>
        <Button onClick={onClose}>Close</Button>
        <span className="text-ink-faint">{isCopied ? "Copied." : "It is not shown again."}</span>
      </div>
    </div>
  );
}
