"use client";

import { useQuery } from "@tanstack/react-query";
import { peopleOperations } from "@/contract/people";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { AccountLine } from "./AccountLine";
import { InvitePart } from "./InvitePart";
import { PolicyPart } from "./PolicyPart";

export function AccountsScreen() {
  return useStandpoint().past === null ? <AccountsNow /> : <OfNow />;
}

/** Who can sign in here, what they may do, and how they have to sign in. */
function AccountsNow() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(peopleOperations.accounts));
  return (
    <div className="h-full overflow-y-auto bg-raised px-4 py-5 sm:px-6" tabIndex={0}>
      <h1 className="text-[20px] font-semibold">People who sign in here</h1>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <>
          <div className="overflow-x-auto" tabIndex={0}>
            <table className="mt-3 w-full max-w-[1180px] min-w-[860px]">
              <thead className="text-left text-[12px] text-ink-faint">
                <tr>
                  <th className="py-1 pr-3 font-semibold">Name</th>
                  <th className="w-36 px-3 font-semibold">Role</th>
                  <th className="px-3 font-semibold">Signs in with</th>
                  <th className="w-56 px-3 font-semibold">Active sessions</th>
                  <th className="w-[330px] px-3 font-semibold">
                    <span className="sr-only">Actions</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {data.accounts.map((account) => (
                  <AccountLine key={account.id} account={account} />
                ))}
              </tbody>
            </table>
          </div>
          {viewer.mayChange && <InvitePart />}
          {viewer.mayChange && <PolicyPart policy={data.policy} hasSingleSignOn={data.hasSingleSignOn} />}
        </>
      )}
    </div>
  );
}
