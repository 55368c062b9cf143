import { type ReactNode, useState } from "react";
import { type Account, peopleOperations } from "@/contract/people";
import { ROLES, type SignInRole } from "@/contract/roles";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { useAccounts } from "./useAccounts";
import { WelcomeAddress } from "./WelcomeAddress";

/** Actions on an account that can't be undone, with the warning before each. */
const DEEDS = {
  password: {
    words: "Reset the password",
    warning:
      "Their password stops working and they are signed out everywhere. You get an address where they can choose a new one.",
  },
  factors: {
    words: "Remove second factors",
    warning:
      "Their passkeys and codes stop working and they are signed out everywhere. Use this when somebody has lost them.",
  },
  remove: {
    words: "Remove",
    warning: "Their account is deleted and they are signed out everywhere. What they did stays in the ledger.",
  },
};
type Deed = keyof typeof DEEDS;

export function AccountLine({ account }: { account: Account }) {
  const dates = useDates();
  const { viewer } = useStandpoint();
  const [deed, setDeed] = useState<Deed>();
  const params = { id: account.id };
  const setRole = useAccounts((role: SignInRole) => ask(peopleOperations.setRole, { params, body: { role } }));
  const endSessions = useAccounts(() => ask(peopleOperations.endSessionsOf, { params }));
  const isOwn = account.email === viewer.address;
  const problem = setRole.error ?? endSessions.error;
  return (
    <>
      <tr className="border-t border-line align-top">
        <td className="min-w-52 py-2 pr-3">
          <b className="font-semibold wrap-anywhere">{account.name}</b>
          <span className="block text-[12.5px] wrap-anywhere text-ink-faint">{account.email}</span>
        </td>
        <td className="px-3 py-2">
          {viewer.mayChange && !isOwn ? (
            <select
              aria-label={`Role of ${account.name}`}
              value={account.role}
              disabled={setRole.isPending}
              onChange={(event) => setRole.mutate(event.target.value as SignInRole)}
              className="h-[30px] rounded-[3px] border border-control bg-raised px-1.5"
            >
              {ROLES.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </select>
          ) : (
            account.role
          )}
        </td>
        <td className="px-3 py-2">{waysOf(account)}</td>
        <td className="px-3 py-2">
          {account.sessions === 0 ? "none" : countWords(account.sessions, "session")}
          {account.lastSignedIn && (
            <span className="block text-[12.5px] text-ink-faint">since {dates.moment(account.lastSignedIn)}</span>
          )}
        </td>
        <td className="px-3 py-2">
          {viewer.mayChange && !isOwn && (
            <span className="flex flex-wrap justify-end gap-1.5">
              {account.sessions > 0 && (
                <Button onClick={() => endSessions.mutate(undefined)}>Sign out everywhere</Button>
              )}
              <Button onClick={() => setDeed("password")}>{DEEDS.password.words}</Button>
              {(account.hasCodes || account.passkeys > 0) && (
                <Button onClick={() => setDeed("factors")}>{DEEDS.factors.words}</Button>
              )}
              <Button className="text-oxide" aria-label={`Remove ${account.name}`} onClick={() => setDeed("remove")}>
                {DEEDS.remove.words}
              </Button>
            </span>
          )}
          {isOwn && <span className="block text-right text-ink-faint">This is you.</span>}
        </td>
      </tr>
      {problem && (
        <Below>
          <Notice tone="wrong">{problem.message}</Notice>
        </Below>
      )}
      {deed && (
        <Below>
          <Confirm account={account} deed={deed} onEnd={() => setDeed(undefined)} />
        </Below>
      )}
    </>
  );
}

function Below({ children }: { children: ReactNode }) {
  return (
    <tr>
      <td colSpan={5} className="pb-3">
        {children}
      </td>
    </tr>
  );
}

/** Asks once more, in place; a reset password is followed by the address to hand over. */
function Confirm({ account, deed, onEnd }: { account: Account; deed: Deed; onEnd: () => void }) {
  const params = { id: account.id };
  const { words, warning } = DEEDS[deed];
  const act = useAccounts(async () => {
    if (deed === "password") return ask(peopleOperations.resetPassword, { params });
    await ask(deed === "factors" ? peopleOperations.resetFactors : peopleOperations.removeAccount, { params });
    return null;
  });
  if (act.data) return <WelcomeAddress welcome={act.data} email={account.email} onClose={onEnd} />;
  return (
    <div className="border-l-4 border-oxide bg-surface px-4 py-3">
      <p>
        <b className="font-semibold">{account.name}.</b> {warning} This can&rsquo;t be undone.
      </p>
      {act.error && <Notice tone="wrong">{act.error.message}</Notice>}
      <div className="mt-2 flex gap-2">
        <Button autoFocus onClick={onEnd}>
          Cancel
        </Button>
        <Button
          look="end"
          disabled={act.isPending}
          onClick={() => act.mutate(undefined, { onSuccess: (welcome) => welcome === null && onEnd() })}
        >
          {words}
        </Button>
      </div>
    </div>
  );
}

function waysOf({ hasPassword, hasCodes, passkeys }: Account): string {
  const ways = [
    ...(hasPassword ? [hasCodes ? "password and code" : "password"] : []),
    ...(passkeys > 0 ? [countWords(passkeys, "passkey")] : []),
  ];
  return ways.length === 0 ? "nothing yet: invited" : ways.join(", ");
}
