import { askingOperations, type OutlookTold, sharingOperations } from "@/contract/sharing";
import type { GivenWaiver } from "@/core/sharing/request";
import type { Wish } from "@/core/sharing/wish";
import type { DateSettings } from "@/core/time/style";
import { ask } from "../parts/ask";

type Dates = Pick<DateSettings, "zone" | "style">;
export interface Beginning {
  wish: Omit<Wish, "to"> & { to: "anyone" | string[] };
  itemName: string;
  folder: string | null;
}
export interface Sent {
  wish: Wish;
  digest: string;
  why: string;
  waivers: GivenWaiver[];
}

/** By what somebody fills the sentence in: an administrator makes the share, everybody else asks for it. */
export interface SharingDoor {
  kind: "make" | "ask";
  begin(item: string, replaces?: string): Promise<Beginning>;
  look(wish: Wish, dates: Dates, signal: AbortSignal): Promise<OutlookTold>;
  /** @returns the id of the request under which it is known */
  send(sent: Sent): Promise<string>;
}

export const MAKING: SharingDoor = {
  kind: "make",
  begin: (item, replaces) => ask(sharingOperations.beginShare, { query: { item, replaces } }),
  look: (wish, query, signal) => ask(sharingOperations.lookAtShare, { body: { wish }, query, signal }),
  send: async (body) => (await ask(sharingOperations.makeShare, { body })).id,
};

export const ASKING: SharingDoor = {
  kind: "ask",
  begin: (item) => ask(askingOperations.beginMyShare, { query: { item } }),
  look: (wish, query, signal) => ask(askingOperations.lookAtMyShare, { body: { wish }, query, signal }),
  send: async ({ wish, digest, why }) => (await ask(askingOperations.askForShare, { body: { wish, digest, why } })).id,
};
