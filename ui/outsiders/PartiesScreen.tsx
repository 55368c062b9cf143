"use client";

import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { outsidersOperations, type PartyTold } from "@/contract/outsiders";
import { begun } from "@/core/text/text";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { StancePart } from "./StancePart";
import { organisationAt, STANCE_WORDS } from "./words";

export function PartiesScreen() {
  return useStandpoint().past === null ? <PartiesNow /> : <OfNow />;
}

/** Every organisation on which there is a stance, and how to set one on another. */
function PartiesNow() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(outsidersOperations.parties));
  const [domain, setDomain] = useState<string | null>(null);
  const choose = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    setDomain(String(new FormData(event.currentTarget).get("domain")).trim().toLowerCase());
  };
  const known = data?.parties.find((one) => one.domain === domain);
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <h1 className="text-[20px] font-semibold">Parties</h1>
      <p className="max-w-prose text-ink-soft">
        Organisations outside that are trusted or denied, and domains of private mailboxes. Rules go by these stances.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {viewer.mayChange && (
        <form onSubmit={choose} className="mt-3 flex items-start gap-3">
          <div className="w-72">
            <Field label="Domain" name="domain" required placeholder="quay.example" />
          </div>
          <div className="pt-[25px]">
            <Button type="submit" className="h-9">
              Set its stance…
            </Button>
          </div>
        </form>
      )}
      {viewer.mayChange && domain && (
        <section aria-label={domain} className="mb-4 max-w-3xl border border-line bg-surface px-4 py-3" key={domain}>
          <h2 className="font-semibold">{domain}</h2>
          <StancePart domain={domain} stance={known?.stance ?? null} set={known?.set ?? undefined} />
        </section>
      )}
      {data?.parties.length === 0 && <Notice>There is no stance on any organisation yet.</Notice>}
      {data && data.parties.length > 0 && <Parties parties={data.parties} />}
    </div>
  );
}

function Parties({ parties }: { parties: readonly PartyTold[] }) {
  const dates = useDates();
  return (
    <table className="w-full max-w-5xl">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="w-64 py-1 pr-3 font-semibold">Domain</th>
          <th className="w-44 px-3 font-semibold">Stance</th>
          <th className="px-3 font-semibold">Who says so</th>
        </tr>
      </thead>
      <tbody>
        {parties.map(({ domain, stance, source, set }) => (
          <tr key={domain} className="border-t border-line align-baseline">
            <td className="py-1.5 pr-3 wrap-anywhere">
              <Link href={organisationAt(domain)} className="text-verdigris underline">
                {domain}
              </Link>
            </td>
            <td className="px-3">{begun(STANCE_WORDS[stance])}</td>
            <td className="px-3 wrap-anywhere">
              {set
                ? `${set.setBy}, ${dates.day(set.setAt)}${set.until === null ? "" : `, until ${dates.day(set.until)}`}: ${set.reason}`
                : `from ${source}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
