import type { FormEvent } from "react";
import { peopleOperations, type SignInPolicy } from "@/contract/people";
import { ROLES } from "@/contract/roles";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useAccounts } from "./useAccounts";

/** How people have to sign in. */
export function PolicyPart({ policy, hasSingleSignOn }: { policy: SignInPolicy; hasSingleSignOn: boolean }) {
  const set = useAccounts((body: SignInPolicy) => ask(peopleOperations.setPolicy, { body }));
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    set.mutate({
      factorFor: ROLES.filter((role) => given.get(role) === "on"),
      passwordsOff: given.get("passwordsOff") === "on",
    });
  };
  return (
    <section aria-labelledby="policy" className="mt-8 max-w-4xl">
      <h2 id="policy" className="text-[17px] font-semibold">
        How people sign in
      </h2>
      <form onSubmit={submit} key={JSON.stringify(policy)}>
        <fieldset className="mt-2">
          <legend className="mb-1">Second factor required for</legend>
          <div className="flex gap-5">
            {ROLES.map((role) => (
              <label key={role} className="flex items-center gap-2">
                <input type="checkbox" name={role} defaultChecked={policy.factorFor.includes(role)} />
                {role}s
              </label>
            ))}
          </div>
          <p className="mt-1 text-ink-faint">
            A passkey, authenticator codes, or single sign-on. People who have none can’t do anything until they add
            one.
          </p>
        </fieldset>
        {hasSingleSignOn && (
          <label className="mt-4 flex items-start gap-2">
            <input type="checkbox" name="passwordsOff" defaultChecked={policy.passwordsOff} className="mt-1" />
            <span>
              No sign-in with a password
              <span className="block text-ink-faint">
                Only single sign-on and passkeys. <code>latch allow-passwords</code> undoes this if sign-in fails.
              </span>
            </span>
          </label>
        )}
        {set.error && <Notice tone="wrong">{set.error.message}</Notice>}
        <Button type="submit" look="act" disabled={set.isPending} className="mt-3">
          Save
        </Button>{" "}
        <span role="status" className="text-ink-soft">
          {set.isSuccess && "Saved."}
        </span>
      </form>
    </section>
  );
}
