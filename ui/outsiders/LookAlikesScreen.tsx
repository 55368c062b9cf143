"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { outsidersOperations } from "@/contract/outsiders";
import type { LookAlikePair, PairSide } from "@/core/outsiders/pairs";
import { asOf, useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords, listWords } from "../parts/words";
import { PeopleTabs } from "../people/PeopleTabs";
import { LIKENESS_WORDS, organisationAt, STANCE_WORDS } from "./words";

const MOST_SHOWN = 100;

/** Domains that can be taken for each other: a slip in an address, a firm's second name, or somebody who passes for it. */
export function LookAlikesScreen() {
  const { past } = useStandpoint();
  const { data, error } = useQuery(asked(outsidersOperations.lookAlikes, { query: { count: MOST_SHOWN }, past }));
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <h1 className="text-[20px] font-semibold">People</h1>
      <PeopleTabs at="Look-alikes" />
      <p className="mt-3 max-w-prose text-ink-soft">
        Pairs of domains that are easily confused, where at least one has access. Say for each pair whether it is one
        firm. If it isn’t, see who let the second one in and deny it: every share with it then becomes a finding.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data?.pairs.length === 0 && <p className="mt-4">No domains are easily confused.</p>}
      {data && data.pairs.length > 0 && (
        <ul className="mt-2 max-w-5xl">
          {data.pairs.map((pair) => (
            <li key={pair.sides.map(({ domain }) => domain).join(" ")} className="border-t border-line py-3">
              <Pair pair={pair} />
            </li>
          ))}
        </ul>
      )}
      {data && data.found > data.pairs.length && (
        <p className="mt-3 text-ink-soft">
          The first {data.pairs.length} of {data.found.toLocaleString("en-GB")}. Settle some to see the rest.
        </p>
      )}
      {data && data.same.length > 0 && <Same pairs={data.same} />}
    </div>
  );
}

function Pair({ pair: { likeness, sides } }: { pair: LookAlikePair }) {
  const { viewer, past } = useStandpoint();
  const domains: [string, string] = [sides[0].domain, sides[1].domain];
  return (
    <div className="grid items-start gap-x-6 gap-y-1 sm:grid-cols-[1fr_1fr_130px_230px]">
      {sides.map((side) => (
        <Side key={side.domain} side={side} />
      ))}
      <p>{LIKENESS_WORDS[likeness]}</p>
      {viewer.mayChange && past === null && (
        <div className="flex flex-wrap gap-2">
          <SaySame domains={domains} isSame words="One firm" />
          {sides[1].organisation?.stance !== "denied" && <Deny domain={domains[1]} like={domains[0]} />}
        </div>
      )}
    </div>
  );
}

function Side({ side: { domain, isHome, organisation } }: { side: PairSide }) {
  const { past } = useStandpoint();
  const dates = useDates();
  return (
    <div>
      {organisation ? (
        <Link href={asOf(organisationAt(domain), past)} className="font-mono text-verdigris underline wrap-anywhere">
          {domain}
        </Link>
      ) : (
        <span className="font-mono wrap-anywhere">{domain}</span>
      )}
      <p className="text-[12.5px] text-ink-soft">
        {isHome && "Yours. "}
        {organisation?.stance && `${STANCE_WORDS[organisation.stance]}. `.replace(/^./, (first) => first.toUpperCase())}
        {organisation && organisation.shares > 0
          ? `${countWords(organisation.people, "person", "people")}, ${countWords(organisation.shares, "share")}${
              organisation.since === null ? "" : ` since ${dates.day(organisation.since)}`
            }${organisation.lastUsed === null ? "" : `, last used ${dates.day(organisation.lastUsed)}`}.`
          : !isHome && "Nobody there has access."}
      </p>
    </div>
  );
}

/** Denies the second of a pair; the reason says why. */
function Deny({ domain, like }: { domain: string; like: string }) {
  const client = useQueryClient();
  const deny = useMutation({
    mutationFn: () =>
      ask(outsidersOperations.setStance, {
        body: { domain, stance: "denied", reason: `It is easily confused with ${like}.`, until: null },
      }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <div>
      <Button className="text-oxide" disabled={deny.isPending} onClick={() => deny.mutate()}>
        Deny the second<span className="sr-only">: {domain}</span>
      </Button>
      {deny.error && <Notice tone="wrong">{deny.error.message}</Notice>}
    </div>
  );
}

function SaySame({ domains, isSame, words }: { domains: [string, string]; isSame: boolean; words: string }) {
  const client = useQueryClient();
  const say = useMutation({
    mutationFn: () => ask(outsidersOperations.saySame, { body: { domains, isSame } }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <div>
      <Button disabled={say.isPending} onClick={() => say.mutate()}>
        {words}
        <span className="sr-only">: {listWords(domains)}</span>
      </Button>
      {say.error && <Notice tone="wrong">{say.error.message}</Notice>}
    </div>
  );
}

/** What has been said can be unsaid. */
function Same({ pairs }: { pairs: readonly [string, string][] }) {
  const { viewer, past } = useStandpoint();
  return (
    <section aria-label="One firm" className="mt-6 max-w-5xl">
      <h2 className="text-[15px] font-semibold">One firm with two domains</h2>
      <ul>
        {pairs.map((pair) => (
          <li key={pair.join(" ")} className="flex items-center gap-6 border-t border-line py-1.5">
            <span className="grow font-mono wrap-anywhere">{listWords(pair)}</span>
            {viewer.mayChange && past === null && <SaySame domains={pair} isSame={false} words="They are two firms" />}
          </li>
        ))}
      </ul>
    </section>
  );
}
