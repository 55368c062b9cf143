"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { docketsOperations, type HandedOver } from "@/contract/dockets";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { countWords } from "../parts/words";

/** All passphrases that a docket set, shown together once: a sheet for each owner, without the addresses they open. */
export function PassphrasesScreen({ id }: { id: string }) {
  const client = useQueryClient();
  const { data, error } = useQuery(asked(docketsOperations.docket, { params: { id } }));
  const show = useMutation({
    mutationFn: () => ask(docketsOperations.showPassphrases, { params: { id } }),
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(docketsOperations.docket, { id }) }),
  });
  const problem = error ?? show.error;
  const sheet = show.data?.sheet;
  return (
    <div className="h-full overflow-y-auto bg-raised p-6">
      <div className="flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">Passphrases to hand over</h1>
        <Link href={`/ledger/dockets/${id}`} className="on-paper-none text-verdigris underline">
          Back to the docket
        </Link>
        <span className="grow" />
        {sheet && sheet.length > 0 && <PrintButton />}
      </div>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {!data && !problem && <Loading />}
      {sheet ? (
        <Sheet sheet={sheet} />
      ) : (
        data && (
          <>
            <p className="mt-2 mb-3 max-w-prose">
              {data.passphrases === 0
                ? "None left: each one has been shown, or was deleted after 7 days. If one is lost, set a new password."
                : `${countWords(data.passphrases, "passphrase waits", "passphrases wait")}. They are shown once, on a sheet for each owner, and then deleted. Hand each over separately from its link.`}
            </p>
            {data.passphrases > 0 && (
              <Button look="act" disabled={show.isPending} onClick={() => show.mutate()}>
                Show all {data.passphrases.toLocaleString("en-GB")} once
              </Button>
            )}
          </>
        )
      )}
    </div>
  );
}

function Sheet({ sheet }: { sheet: readonly HandedOver[] }) {
  const owners = [...new Set(sheet.map(({ owner }) => owner))];
  return (
    <>
      <p role="status" className="on-paper-none mt-2 max-w-prose text-ink-soft">
        Print or copy them now: they won’t be shown again.
      </p>
      {owners.map((owner) => (
        <section key={owner} className="mt-5 break-after-page">
          <h2 className="border-b border-line-strong pb-1 font-semibold">{owner || "No known owner"}</h2>
          <table className="w-full text-left">
            <thead className="text-[12px] text-ink-faint">
              <tr>
                <th className="w-[36%] py-1 font-semibold">Item</th>
                <th className="w-[22%] py-1 font-semibold">Audience</th>
                <th className="py-1 font-semibold">Passphrase</th>
              </tr>
            </thead>
            <tbody>
              {sheet
                .filter((one) => one.owner === owner)
                .map(({ itemName, where, audience, passphrase }) => (
                  <tr key={passphrase} className="border-t border-line align-top">
                    <td className="py-1.5 pr-3">
                      {itemName}
                      <span className="block text-[12px] text-ink-faint">{where}</span>
                    </td>
                    <td className="py-1.5 pr-3">{audience}</td>
                    <td className="py-1.5 font-mono select-all lg:whitespace-nowrap">{passphrase}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
    </>
  );
}
