"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import type { DecidedLine } from "@/contract/decisions";
import type { Decision } from "@/core/rounds/decision";
import type { Seconds } from "@/core/time/instant";
import { toldIn } from "../parts/dates";
import { ask, asked, keyOf } from "../parts/ask";
import { useDates } from "../parts/useDates";
import type { Door } from "./door";

/** What all parts of the page need: the way in, and the present time. */
export interface Deciding {
  door: Door;
  now: Seconds;
}

export const DecidingContext = createContext<Deciding | null>(null);

export function useDeciding(): Deciding {
  const value = useContext(DecidingContext);
  if (!value) throw new Error("useDeciding is for what stands within the decider's page");
  return value;
}

const STILL_DOING = ["staged", "sending"];

/** What somebody is asked; asked again while something of it is still being done. */
export function usePage() {
  const { door } = useDeciding();
  const dates = toldIn(useDates());
  return useQuery({
    ...asked(door.operations.page, { body: { ...door.who, dates } }),
    retry: false,
    refetchInterval: ({ state }) =>
      state.data?.lines.some(({ steps }) => steps.some((step) => STILL_DOING.includes(step.state))) ? 1_000 : false,
  });
}

/** Reloads the page's data. */
export function useShowAnew() {
  const { door } = useDeciding();
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: keyOf(door.operations.page) });
}

/** Decides lines, and has what was decided shown at once. */
export function useDecide() {
  const { door } = useDeciding();
  const showAnew = useShowAnew();
  return useMutation({
    mutationFn: ({ lines, decision }: { lines: readonly DecidedLine[]; decision: Decision }) =>
      ask(door.operations.decide, { body: { ...door.who, lines: lines.map(named), decision } }),
    onSettled: showAnew,
  });
}

const named = ({ shareId, asked }: DecidedLine) => ({ shareId, asked });

export function usePassOn() {
  const { door } = useDeciding();
  const showAnew = useShowAnew();
  return useMutation({
    mutationFn: ({ lines, ...passing }: { lines: readonly DecidedLine[]; to: string; reason: string }) =>
      ask(door.operations.passOn, { body: { ...door.who, shares: lines.map(({ shareId }) => shareId), ...passing } }),
    onSettled: showAnew,
  });
}
