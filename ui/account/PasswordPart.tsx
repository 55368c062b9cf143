import type { FormEvent } from "react";
import { MIN_PASSWORD, MIN_PASSWORD_WITH_FACTOR, type Self } from "@/contract/people";
import { askSignIn } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { Part } from "./Part";
import { useSelf } from "./useSelf";

/** Changes one's password, and signs one out everywhere else. */
export function PasswordPart({ self }: { self: Self }) {
  const change = useSelf((body: object) => askSignIn("changePassword", { ...body, revokeOtherSessions: true }));
  const least = self.hasCodes ? MIN_PASSWORD_WITH_FACTOR : MIN_PASSWORD;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    change.mutate(Object.fromEntries(new FormData(form)), { onSuccess: () => form.reset() });
  };
  return (
    <Part title="Password" about="Changing it signs you out everywhere else.">
      <form method="post" onSubmit={submit} className="max-w-sm">
        <Field
          label="Current password"
          name="currentPassword"
          type="password"
          autoComplete="current-password"
          required
        />
        <Field
          label="New password"
          name="newPassword"
          type="password"
          autoComplete="new-password"
          required
          hint={`At least ${least} characters. Several unrelated words make a good one.`}
        />
        {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
        <Button type="submit" disabled={change.isPending}>
          Change password
        </Button>{" "}
        <span role="status" className="text-ink-soft">
          {change.isSuccess && "Changed."}
        </span>
      </form>
    </Part>
  );
}
