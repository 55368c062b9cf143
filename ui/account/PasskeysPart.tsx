import { startRegistration } from "@simplewebauthn/browser";
import type { FormEvent } from "react";
import type { Self } from "@/contract/people";
import { askSignIn, RequestFailure } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { Part } from "./Part";
import { useSelf } from "./useSelf";

/** Passkeys: kept by a device or a security key, which asks its holder before using one. */
export function PasskeysPart({ self }: { self: Self }) {
  const dates = useDates();
  const add = useSelf(async (name: string) => {
    const optionsJSON = (await askSignIn("beginPasskey")) as Parameters<typeof startRegistration>[0]["optionsJSON"];
    const response = await startRegistration({ optionsJSON });
    await askSignIn("addPasskey", { response, name });
  });
  const drop = useSelf((id: string) => askSignIn("dropPasskey", { id }));
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    add.mutate(String(new FormData(form).get("name")), { onSuccess: () => form.reset() });
  };
  return (
    <Part
      title="Passkeys"
      about="A passkey signs you in without a password: your device or security key asks for your fingerprint, your face or its PIN."
    >
      <ul className="mb-3">
        {self.passkeys.map(({ id, name, addedAt }) => (
          <li key={id} className="flex items-baseline gap-3 border-t border-line py-1.5">
            <b className="font-semibold wrap-anywhere">{name}</b>
            <span className="grow text-ink-faint">added {dates.moment(addedAt)}</span>
            <Button
              className="text-oxide"
              aria-label={`Remove ${name}`}
              disabled={drop.isPending}
              onClick={() => drop.mutate(id)}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {drop.error && <Notice tone="wrong">{drop.error.message}</Notice>}
      <form onSubmit={submit} className="max-w-sm">
        <Field
          label="Name for a new passkey"
          name="name"
          required
          maxLength={60}
          placeholder="For example: laptop"
          hint="Add two, so that losing one doesn’t lock you out."
        />
        {add.error && (
          <Notice tone="wrong">
            {add.error instanceof RequestFailure ? add.error.message : "No passkey was added. Try again."}
          </Notice>
        )}
        <Button type="submit" look="act" disabled={add.isPending}>
          Add a passkey
        </Button>
      </form>
    </Part>
  );
}
