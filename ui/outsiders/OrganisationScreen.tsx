"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import { type OrganisationTold, outsidersOperations } from "@/contract/outsiders";
import { LABELS } from "@/core/estate/records";
import { PRIVATE_MAILBOXES } from "@/core/outsiders/organisations";
import { asOf, useStandpoint } from "../frame/viewer";
import { engagementAt } from "../engagements/words";
import { ask, asked, keyOf } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notes } from "../parts/Notes";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { RiskMark } from "../parts/RiskMark";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { AccessWords } from "../waysIn/AccessWords";
import { CutOffPart } from "./CutOffPart";
import { StancePart } from "./StancePart";
import { nameOf, sharesQuery } from "./words";

/** What one organisation still has. */
export function OrganisationScreen() {
  const { past } = useStandpoint();
  const [domain] = useQueryState("domain", parseAsString.withDefault(PRIVATE_MAILBOXES));
  const { data, error } = useQuery(asked(outsidersOperations.organisation, { query: { domain }, past }));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <nav aria-label="Where this is" className="on-paper-none text-ink-soft">
        <Link href={asOf("/people", past)} className="underline">
          Organisations
        </Link>{" "}
        / {nameOf(domain)}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Told key={domain} told={data} />}
    </div>
  );
}

function Told({ told }: { told: OrganisationTold }) {
  const { organisation, stances, open } = told;
  const { domain } = organisation;
  const { viewer, past } = useStandpoint();
  return (
    <>
      <div className="flex items-baseline gap-4">
        <h1 className="grow text-[20px] font-semibold wrap-anywhere">{nameOf(domain)}</h1>
        <PrintButton />
      </div>
      <Summary told={told} />
      <p className="on-paper-none mt-1 flex flex-wrap gap-x-5">
        <Link
          href={asOf(`/register?q=${encodeURIComponent(sharesQuery(domain))}`, past)}
          className="text-verdigris underline"
        >
          Their shares in the register
        </Link>
        {domain !== PRIVATE_MAILBOXES && (
          <Link
            href={asOf(`/trail?organisation=${encodeURIComponent(domain)}`, past)}
            className="text-verdigris underline"
          >
            What they did
          </Link>
        )}
        {viewer.mayChange && past === null && organisation.shares > 0 && (
          <Link href={`/rounds/new?q=${encodeURIComponent(sharesQuery(domain))}`} className="text-verdigris underline">
            Ask owners about these shares
          </Link>
        )}
      </p>
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_360px]">
        <div>
          <People told={told} />
          <Projects told={told} />
          <Items told={told} />
        </div>
        <aside className="on-paper-none">
          {domain === PRIVATE_MAILBOXES ? (
            <Mailboxes told={told} />
          ) : (
            <section aria-label="Stance" className="border border-line bg-surface px-4 py-3">
              <h2 className="text-[15px] font-semibold">Stance</h2>
              <StancePart {...{ domain, stance: organisation.stance, set: stances.at(0) }} />
            </section>
          )}
          <OrganisationNotes told={told} />
          {viewer.mayChange && past === null && <CutOffPart organisation={organisation} open={open} />}
        </aside>
      </div>
    </>
  );
}

function Summary({ told: { organisation, sheet } }: { told: OrganisationTold }) {
  const dates = useDates();
  const { people, shares, makers, since, lastUsed, engagements, findings, risk } = organisation;
  const reached = sheet.labels.reduce((sum, count) => sum + count, 0);
  if (shares === 0 && reached === 0) return <p>No share lets anybody there in by name.</p>;
  const labels = LABELS.map((label, i) => ({ label, count: sheet.labels[i] })).filter(({ count }) => count > 0);
  return (
    <>
      <p className="max-w-prose text-[15px]">
        {countWords(people, "person reaches", "people reach")} {countWords(reached, "item")} by{" "}
        {countWords(shares, "share")}, which {countWords(makers, "person", "people")} made.
        {since !== null && ` The first was made on ${dates.day(since)}.`}
        {lastUsed !== null && ` Last used on ${dates.day(lastUsed)}.`}
        {engagements > 0 && ` ${countWords(engagements, "project names", "projects name")} it.`}
      </p>
      <dl className="mt-2 flex flex-wrap gap-x-8 gap-y-1">
        {labels.toReversed().map(({ label, count }) => (
          <div key={label}>
            <dt className="text-[12px] text-ink-faint">{plainWords(label)}</dt>
            <dd className="tabular-nums">{countWords(count, "item")}</dd>
          </div>
        ))}
        <div>
          <dt className="text-[12px] text-ink-faint">Findings</dt>
          <dd className="tabular-nums">{findings}</dd>
        </div>
        <div>
          <dt className="text-[12px] text-ink-faint">Highest risk</dt>
          <dd>
            <RiskMark risk={risk} />
          </dd>
        </div>
      </dl>
    </>
  );
}

function OrganisationNotes({ told: { organisation, notes } }: { told: OrganisationTold }) {
  const { viewer, past } = useStandpoint();
  const client = useQueryClient();
  const { domain } = organisation;
  // Private mailboxes are many: there is nothing to note of all of them.
  if (domain === PRIVATE_MAILBOXES) return null;
  const leave = async (text: string) => {
    await ask(outsidersOperations.leaveOrganisationNote, { body: { domain, text } });
    await client.invalidateQueries({ queryKey: keyOf(outsidersOperations.organisation) });
  };
  return <Notes on="this organisation" notes={notes} onLeave={viewer.mayChange && past === null ? leave : null} />;
}

function Projects({ told: { sheet } }: { told: OrganisationTold }) {
  const { past, now } = useStandpoint();
  const dates = useDates();
  if (sheet.projects.length === 0) return null;
  return (
    <section aria-label="Projects" className="mt-6">
      <h2 className="text-[15px] font-semibold">Projects</h2>
      <ul className="mt-1">
        {sheet.projects.map(({ id, name, ends }) => (
          <li key={id} className="flex gap-4 border-t border-line py-1">
            <Link href={asOf(engagementAt(id), past)} className="grow text-verdigris underline">
              {name}
            </Link>
            <span className="text-ink-soft">
              {ends > now ? "ends" : "ended"} on {dates.day(ends)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function People({ told: { sheet } }: { told: OrganisationTold }) {
  const { past } = useStandpoint();
  if (sheet.people.length === 0) return null;
  return (
    <section aria-label="People">
      <h2 className="text-[15px] font-semibold">People</h2>
      <table className="mt-1 w-full">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="py-1 font-semibold">Name</th>
            <th className="px-3 text-right font-semibold">Shares</th>
            <th className="px-3 text-right font-semibold">Items</th>
          </tr>
        </thead>
        <tbody>
          {sheet.people.map(({ address, name, status, shares, items }) => (
            <tr key={address} className="border-t border-line">
              <td className="py-1.5">
                <Link
                  href={asOf(`/ways?person=${encodeURIComponent(address)}`, past)}
                  className="text-verdigris underline"
                >
                  {name === address ? "Known only by address" : name}
                </Link>{" "}
                <span className="font-mono text-[12px] text-ink-faint">{address}</span>
                {status !== "active" && <span className="text-ink-faint"> {status}</span>}
              </td>
              <td className="px-3 text-right tabular-nums">{shares}</td>
              <td className="px-3 text-right tabular-nums">{items.toLocaleString("en-GB")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Items({ told: { sheet } }: { told: OrganisationTold }) {
  const { past } = useStandpoint();
  const all = sheet.labels.reduce((sum, count) => sum + count, 0);
  if (all === 0) return null;
  return (
    <section aria-label="What they reach" className="mt-6">
      <h2 className="text-[15px] font-semibold">What they reach</h2>
      {all > sheet.items.length && (
        <p className="text-ink-soft">
          The {sheet.items.length.toLocaleString("en-GB")} most sensitive of {all.toLocaleString("en-GB")}.
        </p>
      )}
      <table className="mt-1 w-full">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="py-1 font-semibold">Item</th>
            <th className="px-3 font-semibold">Label</th>
            <th className="px-3 font-semibold">What they can do</th>
          </tr>
        </thead>
        <tbody>
          {sheet.items.map((item) => (
            <tr key={item.id} className="break-inside-avoid border-t border-line">
              <td className="py-1.5">
                <Link
                  href={asOf(`/ways?item=${encodeURIComponent(item.id)}`, past)}
                  className="text-verdigris underline"
                >
                  {item.name}
                </Link>
                <span className="block text-[12px] text-ink-faint">{item.place.join(" / ")}</span>
              </td>
              <td className="px-3">{plainWords(item.label)}</td>
              <td className="px-3">
                <AccessWords access={item} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Mailboxes({ told: { sheet, stances } }: { told: OrganisationTold }) {
  return (
    <section aria-label="Domains" className="border border-line bg-surface px-4 py-3">
      <h2 className="text-[15px] font-semibold">Domains</h2>
      <ul>
        {sheet.domains.map((domain) => (
          <li key={domain} className="border-t border-line py-2">
            <p className="font-mono text-[13px] wrap-anywhere">{domain}</p>
            <StancePart {...{ domain, stance: "personal", set: stances.find((one) => one.domain === domain) }} />
          </li>
        ))}
      </ul>
    </section>
  );
}
