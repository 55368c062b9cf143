import { z } from "zod";
import { type Careful } from "@/core/preview/careful";
import { type ItemLoss, type OrganisationLoss } from "@/core/preview/losses";
import { type EffectWords, type PersonEffect, type Preview, type SomeItems, type Way } from "@/core/preview/preview";

export const someItems: z.ZodType<SomeItems> = z.object({ count: z.number(), names: z.array(z.string()) });

const way: z.ZodType<Way> = z.object({ share: z.string(), words: z.string() });

export const personEffect: z.ZodType<PersonEffect> = z.object({
  address: z.string(),
  name: z.string(),
  insider: z.boolean(),
  organisation: z.string(),
  loses: someItems,
  keeps: someItems,
  gains: someItems,
  ways: z.array(way),
});

const effectWords: z.ZodType<EffectWords> = z.object({
  loses: someItems,
  keeps: someItems,
  gains: someItems,
  ways: z.array(way),
});

const organisationLoss: z.ZodType<OrganisationLoss> = z.object({
  organisation: z.string(),
  insider: z.boolean(),
  people: z.number(),
  items: z.number(),
});

const itemLoss: z.ZodType<ItemLoss> = z.object({
  id: z.string(),
  name: z.string(),
  people: z.number(),
  anyone: z.boolean(),
});

const careful: z.ZodType<Careful> = z.object({ insiders: z.array(z.string()), running: z.array(z.string()) });

export const preview: z.ZodType<Preview> = z.object({
  counts: z.partialRecord(z.string(), z.number()),
  people: z.array(personEffect),
  anyone: effectWords,
  house: effectWords,
  organisations: z.array(organisationLoss),
  items: z.array(itemLoss),
  itemsLostOutside: z.number(),
  addressesStopping: z.number(),
  passwordsReplaced: z.number(),
  impossible: z.array(z.object({ subject: z.string(), name: z.string(), why: z.string(), instead: z.string() })),
  later: z.array(z.object({ shareId: z.string(), itemName: z.string(), on: z.string(), byOrder: z.boolean() })),
  reopened: z.array(z.object({ shareId: z.string(), itemName: z.string(), until: z.string() })),
  tighter: z.array(z.object({ shareId: z.string(), itemName: z.string(), words: z.string() })),
  back: z.array(z.object({ shareId: z.string(), itemName: z.string(), words: z.string() })),
  newAddresses: z.array(z.object({ shareId: z.string(), itemName: z.string(), addresses: z.array(z.string()) })),
  careful: careful,
});
