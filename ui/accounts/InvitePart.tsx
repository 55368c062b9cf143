import type { FormEvent } from "react";
import { type Invitation, peopleOperations } from "@/contract/people";
import { ROLES, type SignInRole } from "@/contract/roles";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { useAccounts } from "./useAccounts";
import { WelcomeAddress } from "./WelcomeAddress";

const MAY: Record<SignInRole, string> = {
  administrator: "sees and changes everything",
  auditor: "sees everything, changes nothing",
  owner: "answers about their own shares",
};

/** Makes an account for somebody, who chooses a password themselves. */
export function InvitePart() {
  const invite = useAccounts((body: Invitation) => ask(peopleOperations.invite, { body }));
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const given = new FormData(form);
    const text = (name: string) => String(given.get(name));
    invite.mutate(
      { name: text("name"), email: text("email"), role: text("role") as SignInRole },
      { onSuccess: () => form.reset() },
    );
  };
  return (
    <section aria-labelledby="invite" className="mt-8 max-w-5xl">
      <h2 id="invite" className="text-[17px] font-semibold">
        Invite somebody
      </h2>
      <p className="mb-3 text-ink-soft">They choose their own password at an address that works once.</p>
      <form onSubmit={submit} className="flex flex-wrap items-start gap-x-4">
        <div className="w-56">
          <Field label="Name" name="name" required maxLength={100} />
        </div>
        <div className="w-72">
          <Field label="E-mail address" name="email" type="email" required />
        </div>
        <label className="font-semibold">
          Role
          <select
            name="role"
            defaultValue="auditor"
            className="mt-1 block h-9 rounded-[3px] border border-control bg-raised px-2 font-normal"
          >
            {ROLES.map((role) => (
              <option key={role} value={role}>
                {role}: {MAY[role]}
              </option>
            ))}
          </select>
        </label>
        <div className="pt-[25px]">
          <Button type="submit" look="act" disabled={invite.isPending} className="h-9">
            Invite
          </Button>
        </div>
      </form>
      {invite.error && <Notice tone="wrong">{invite.error.message}</Notice>}
      {invite.data && (
        <WelcomeAddress welcome={invite.data} email={invite.variables.email} onClose={() => invite.reset()} />
      )}
    </section>
  );
}
