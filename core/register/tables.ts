import { NumberSets } from "./numberSets";
import { type ProfileFacts, Profiles } from "./profiles";
import { type RankedColumns, RankedTexts } from "./rankedTexts";

/** What has numbers in the columns of the register. A number is never given to anything else. */
export interface Tables {
  readonly profiles: Profiles;
  readonly storeIds: RankedTexts;
  readonly departments: RankedTexts;
  readonly names: RankedTexts;
  readonly audiences: RankedTexts;
  readonly makerNames: RankedTexts;
  readonly organisationSets: NumberSets;
  readonly engagementSets: NumberSets;
}

/** The same as they are kept. */
export interface KeptTables {
  profiles: ProfileFacts[];
  /** Store ids, departments, names, audiences, makers' names. */
  texts: RankedColumns[];
  /** Of organisations, of engagements. */
  sets: number[][][];
}

export function newTables(): Tables {
  const tables = restoredTables({ profiles: [], texts: [], sets: [] });
  tables.departments.number("");
  tables.names.number("");
  return tables;
}

export function keptTables(tables: Tables): KeptTables {
  const { profiles, storeIds, departments, names, audiences, makerNames, organisationSets, engagementSets } = tables;
  return {
    profiles: profiles.facts(),
    texts: [storeIds, departments, names, audiences, makerNames].map((one) => one.columns()),
    sets: [organisationSets, engagementSets].map((one) => one.columns()),
  };
}

export function restoredTables({ profiles, texts, sets }: KeptTables): Tables {
  return {
    profiles: new Profiles(profiles),
    storeIds: new RankedTexts(texts[0]),
    departments: new RankedTexts(texts[1]),
    names: new RankedTexts(texts[2]),
    audiences: new RankedTexts(texts[3]),
    makerNames: new RankedTexts(texts[4]),
    organisationSets: new NumberSets(sets[0]),
    engagementSets: new NumberSets(sets[1]),
  };
}
