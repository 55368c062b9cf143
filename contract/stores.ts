import { z } from "zod";
import { recordSchemas } from "@/core/estate/records";
import { mappingName } from "@/core/imports/mapping";
import { writtenLine } from "@/core/text/written";
import { operations } from "./operation";

const capabilities = recordSchemas.store.shape.capabilities;

const day = z.object({
  day: z.string(),
  ...{ readings: z.number(), records: z.number(), errors: z.number(), gap: z.number() },
});

/** A store, how it is known, and how its readings have gone. */
const store = z.object({
  /** The name of its source. */
  id: z.string(),
  /** By which it is known among stores; null before it was read. */
  storeId: z.string().nullable(),
  name: z.string(),
  /** Whether it is read from the store itself; else from files that people import. */
  isRead: z.boolean(),
  url: z.string().nullable(),
  capabilities: capabilities.nullable(),
  region: z.string().nullable(),
  lastReadAt: z.number().nullable(),
  lastError: z.string().nullable(),
  isLate: z.boolean(),
  /** It is read from the beginning next. */
  readsAgain: z.boolean(),
  /** Records that are known of it now. */
  records: z.number(),
  /** The newest first. */
  days: z.array(day),
});
export type StoreTold = z.infer<typeof store>;

const where = {
  url: z.url({ protocol: /^https?$/, error: "is not an address such as https://files.wrenmoor.example" }),
  key: z.string().min(1, "Give the store’s key.").max(1_000),
};

const found = z.object({
  id: z.string(),
  name: z.string(),
  capabilities,
  /** How many records its first page has, and whether that is all. */
  records: z.number(),
  isAll: z.boolean(),
});
export type StoreFound = z.infer<typeof found>;

const nothing = z.object({});

export const storesOperations = operations({
  storesTold: { method: "GET", path: "/api/estate/stores", may: "read", answer: z.object({ stores: z.array(store) }) },
  /** Asks a store what it is and for its first records. Nothing is kept. */
  tryStore: { method: "POST", path: "/api/estate/stores/try", may: "change", body: z.object(where), answer: found },
  /** Connects a store, and begins to read it; or says where one that is connected is now. */
  addStore: {
    method: "POST",
    path: "/api/estate/stores",
    may: "change",
    fresh: true,
    body: z.object({ id: mappingName, name: writtenLine.min(1, "Name the store.").max(100), ...where }),
    answer: nothing,
  },
  /** Reads all of a store again, and finds what is no longer there. */
  readStoreAgain: { method: "POST", path: "/api/estate/stores/:id/again", may: "change", answer: nothing },
  /** What is known of it stays as it is; changes to it are done by hand from then on. */
  disconnectStore: { method: "DELETE", path: "/api/estate/stores/:id", may: "change", fresh: true, answer: nothing },
});
