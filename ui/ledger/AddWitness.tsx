import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ledgerOperations } from "@/contract/ledger";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { WITNESS_WORDS } from "./words";

const KINDS = ["mail", "stamp", "webhook", "log"] as const;

/** Has checkpoints go to another place from now on. */
export function AddWitness() {
  const [isAdding, setAdding] = useState(false);
  return isAdding ? (
    <AddForm onClose={() => setAdding(false)} />
  ) : (
    <p className="mt-3">
      <Button onClick={() => setAdding(true)}>Add a witness</Button>
    </p>
  );
}

function AddForm({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const [kind, setKind] = useState<(typeof KINDS)[number]>("mail");
  const [address, setAddress] = useState("");
  const hasAddress = kind === "mail" || kind === "stamp";
  const add = useMutation({
    mutationFn: () =>
      ask(ledgerOperations.addWitness, {
        body: kind === "mail" || kind === "stamp" ? { kind, to: address.trim() } : { kind, to: "" },
      }),
    onSuccess: (told) => {
      client.setQueryData(asked(ledgerOperations.checkpoints).queryKey, told);
      onClose();
    },
  });
  return (
    <form
      className="mt-4 max-w-xl border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate();
      }}
    >
      <fieldset className="mb-3">
        <legend className="mb-1 font-semibold">Send checkpoints to</legend>
        {KINDS.map((one) => (
          <label key={one} className="mb-1.5 flex gap-2">
            <input type="radio" name="kind" checked={one === kind} onChange={() => setKind(one)} />
            <span>
              {WITNESS_WORDS[one].title}
              <span className="block text-[12.5px] text-ink-soft">{WITNESS_WORDS[one].hint}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {hasAddress && (
        <Field
          label={kind === "mail" ? "Mail address" : "Address of the authority"}
          type={kind === "mail" ? "email" : "url"}
          required
          maxLength={320}
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      )}
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={add.isPending}>
          Add witness
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
      {add.error && <Notice tone="wrong">{add.error.message}</Notice>}
    </form>
  );
}
