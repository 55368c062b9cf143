import { useId } from "react";
import { isMailAddress } from "@/core/estate/mailAddress";

/** The addresses in a text, one a line or with commas between; and why they can't be taken, or null. */
export function readAddresses(text: string): { addresses: string[]; problem: string | null } {
  const addresses = [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
  const wrong = addresses.filter((one) => !isMailAddress(one));
  if (wrong.length > 0)
    return { addresses, problem: `${wrong.join(", ")}: not an e-mail address such as ada@quay.example.` };
  return { addresses, problem: addresses.length === 0 ? "Name at least one address." : null };
}

/** A field for several addresses; what is wrong with them is said under it. */
export function AddressesField(props: { text: string; problem: string | null; onText: (text: string) => void }) {
  const { text, problem, onText } = props;
  const id = useId();
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block font-semibold">
        Addresses, one per line
      </label>
      <textarea
        id={id}
        rows={3}
        value={text}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onChange={(event) => onText(event.target.value)}
        className="block w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5 font-mono text-[13px]"
      />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-1 text-oxide">
          {problem}
        </p>
      )}
    </div>
  );
}
