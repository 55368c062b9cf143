import fc from "fast-check";
import { whoReaches } from "@/core/access/reach";
import { WaysIn } from "@/core/access/waysIn";
import { finish } from "@/core/time/steps";
import { buildEstate, type Estate } from "@/core/estate/estate";
import { LABELS } from "@/core/estate/records";
import { organisationSheet } from "@/core/outsiders/organisation";
import {
  type Organisation,
  ORGANISATION_COLUMNS,
  organisationsOf,
  PRIVATE_MAILBOXES,
  sortedOrganisations,
} from "@/core/outsiders/organisations";
import { Register } from "@/core/register/register";
import { LEVELS } from "@/core/rules/risk";
import { party, T } from "./records";
import { plainRows } from "./registerModel";
import { estates } from "./randomEstates";

jest.setTimeout(120_000);

const stances = fc.uniqueArray(
  fc.tuple(
    fc.constantFrom("quay.example", "post.example", "xn--bcher-kva.example"),
    fc.constantFrom("trusted", "personal", "denied"),
  ),
  { selector: ([domain]) => domain },
);

function organisationsAt(estate: Estate): Organisation[] {
  const register = new Register(estate);
  register.at(T);
  return finish(organisationsOf(register, T));
}

/** The same by going through every share's row, and every item, one organisation after the other. */
function plainly(estate: Estate): Omit<Organisation, "engagements">[] {
  const nameOf = (domain: string) => (estate.stances.get(domain) === "personal" ? PRIVATE_MAILBOXES : domain);
  const outsiders = estate.people.filter(({ insider, status }) => !insider && status === "active");
  const names = new Set([...outsiders.map(({ organisation }) => organisation), ...estate.stances.keys()].map(nameOf));
  const everyone = new Set([...estate.tree.slotAt.keys()].flatMap((at) => [...whoReaches(estate, T, at).keys()]));
  return [...names].map((domain) => {
    const rows = plainRows(estate, T).filter(
      ({ row }) => row.state === "live" && row.organisations.some((one) => nameOf(one) === domain),
    );
    const theirs = new Set(
      outsiders.filter(({ organisation }) => nameOf(organisation) === domain).map(({ index }) => index),
    );
    const reached = [...estate.tree.slotAt.keys()].filter((position) =>
      [...whoReaches(estate, T, position).keys()].some((person) => theirs.has(person)),
    );
    const folders = reached.filter((position) => estate.tree.kindAt(position) !== "file").length;
    const made = rows.map(({ row }) => row.made);
    const used = rows.flatMap(({ row }) => row.lastUsed ?? []);
    const risks = rows.flatMap(({ row }) => (row.risk === null ? [] : LEVELS.indexOf(row.risk)));
    return {
      domain,
      stance: domain === PRIVATE_MAILBOXES ? "personal" : (estate.stances.get(domain) ?? null),
      people: [...theirs].filter((person) => everyone.has(person)).length,
      shares: rows.length,
      files: reached.length - folders,
      folders,
      labels: LABELS.map((_, label) => reached.filter((position) => estate.tree.label[position] === label).length),
      since: made.length > 0 ? Math.min(...made) : null,
      lastUsed: used.length > 0 ? Math.max(...used) : null,
      makers: new Set(rows.map(({ row }) => estate.share(row.id)!.maker).filter((maker) => maker >= 0)).size,
      findings: rows.reduce((sum, { row }) => sum + row.rules.length, 0),
      risk: risks.length > 0 ? LEVELS[Math.max(...risks)] : null,
    };
  });
}

const byDomain = (a: { domain: string }, b: { domain: string }) => (a.domain < b.domain ? -1 : 1);

test("each organisation has what its shares say, and reaches what its people reach item by item", () => {
  let reaching = 0;
  fc.assert(
    fc.property(estates, stances, (records, said) => {
      const estate = buildEstate([...records, ...said.map(([domain, stance]) => party(domain, stance as "denied"))]);
      const told = organisationsAt(estate).map(({ engagements: _, ...one }) => one);
      expect(told.sort(byDomain)).toEqual(plainly(estate).sort(byDomain));
      reaching += told.filter(({ shares }) => shares > 0).length;
      const waysIn = new WaysIn(estate);
      for (const { domain, labels, people, files, folders } of told) {
        const sheet = organisationSheet(estate, T, domain, waysIn);
        expect(sheet.labels).toEqual(labels);
        expect(sheet.items).toHaveLength(files + folders);
        expect(sheet.people.filter(({ items }) => items > 0)).toHaveLength(people);
      }
    }),
    { numRuns: 300 },
  );
  expect(reaching).toBeGreaterThan(50);
});

test("by each column they stand in its order, both ways, and what nobody can tell comes last", () => {
  const estate = (records: Parameters<typeof buildEstate>[0]) => organisationsAt(buildEstate(records));
  fc.assert(
    fc.property(estates, fc.constantFrom(...ORGANISATION_COLUMNS), fc.boolean(), (records, by, reversed) => {
      const all = estate(records);
      const found = sortedOrganisations(all, { by, reversed });
      expect([...found].sort(byDomain)).toEqual([...all].sort(byDomain));
      const values = found.map((one) => valueOf(one, by)).filter((value) => value !== null);
      const sorted = values.toSorted((a, b) => (a === b ? 0 : a < b ? -1 : 1));
      expect(values).toEqual((by === "domain") === reversed ? sorted.toReversed() : sorted);
    }),
    { numRuns: 100 },
  );

  function valueOf(one: Organisation, by: (typeof ORGANISATION_COLUMNS)[number]): string | number | null {
    if (by === "sensitive") return one.labels[2] + one.labels[3];
    if (by === "risk") return one.risk === null ? null : LEVELS.indexOf(one.risk);
    if (by === "stance") return one.stance === null ? null : ["trusted", "personal", "denied"].indexOf(one.stance);
    return one[by];
  }
});
