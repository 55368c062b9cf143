import { peopleOperations, type Self } from "@/contract/people";
import { SIGN_IN_HOURS, SIGN_IN_IDLE_MINUTES, type SignedInBy } from "@/contract/signIn";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { Part } from "./Part";
import { useSelf } from "./useSelf";

const BY: Record<SignedInBy, string> = {
  password: "with password",
  code: "with password and code",
  "recovery-code": "with password and recovery code",
  passkey: "with a passkey",
  "single-sign-on": "with single sign-on",
};

/** Where one is signed in. */
export function SessionsPart({ self: { sessions } }: { self: Self }) {
  const dates = useDates();
  const end = useSelf((id: string | null) => ask(peopleOperations.endOwnSession, { body: { id } }));
  return (
    <Part
      title="Where you are signed in"
      about={`You are signed out ${SIGN_IN_HOURS} hours after signing in, and after ${SIGN_IN_IDLE_MINUTES} minutes without activity.`}
    >
      <ul>
        {sessions.map(({ id, by, address, browser, startedAt, usedAt, isThis }) => (
          <li key={id} className="flex items-baseline gap-3 border-t border-line py-2">
            <span className="grow">
              <b className="font-semibold">{isThis ? "Here" : address || "Unknown device"}</b> {BY[by]}, since{" "}
              {dates.moment(startedAt)}
              <span className="block text-[12.5px] wrap-anywhere text-ink-faint">
                Last used {dates.moment(usedAt)}. {browser.slice(0, 140)}
              </span>
            </span>
            {!isThis && (
              <Button disabled={end.isPending} onClick={() => end.mutate(id)}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      {end.error && <Notice tone="wrong">{end.error.message}</Notice>}
      {sessions.length > 1 && (
        <Button className="mt-2" disabled={end.isPending} onClick={() => end.mutate(null)}>
          Sign out everywhere else
        </Button>
      )}
    </Part>
  );
}
