import type { trailOperations } from "@/contract/trail";
import type { Seconds } from "@/core/time/instant";
import type { TrailSearch } from "@/core/trail/search";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { trailExport } from "./exports";

interface AtPlace {
  search: TrailSearch;
  count: number;
  at?: number;
  seq?: number;
}

/** From a past instant nothing later is found. */
function upTo(past: Seconds | undefined, search: TrailSearch): TrailSearch {
  return past === undefined ? search : { ...search, to: Math.min(search.to ?? Infinity, past + 1) };
}

function placed({ search, count, at, seq }: AtPlace, past: Seconds | undefined) {
  return { search: upTo(past, search), count, before: at === undefined || seq === undefined ? undefined : { at, seq } };
}

export const trailHandlers: Handlers<Asking, typeof trailOperations> = {
  events: ({ engine }, { query, past }) => engine.ask("events", placed(query, past)),
  eventGroups: ({ engine }, { query, past }) => engine.ask("eventGroups", { ...placed(query, past), zone: query.zone }),
  eventCounts: ({ engine }, { query: { search, zone }, past }) =>
    engine.ask("eventCounts", { search: upTo(past, search), zone }),
  eventFacets: ({ engine }, { query: { search }, past }) => engine.ask("eventFacets", { search: upTo(past, search) }),
  exportTrail: (app, { actor, body: { search, format }, past }) =>
    trailExport(app, actor.email, upTo(past, search), format),
};
