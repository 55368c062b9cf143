import { z } from "zod";
import { mailAddress } from "@/core/estate/mailAddress";
import { writtenLine } from "@/core/text/written";
import { operations } from "./operation";
import { type StoreStatus } from "@/core/estate/storeStatus";

const storeStatus: z.ZodType<StoreStatus> = z.object({
  id: z.string(),
  name: z.string(),
  records: z.number(),
  lastReadAt: z.string().nullable(),
  lastError: z.string().nullable(),
});

const store = z.object({ id: z.string(), name: z.string() });

const domain = z
  .string()
  .trim()
  .regex(/^[^\s.@]+(\.[^\s.@]+)+$/, { error: "A home domain looks like wrenmoor.example." });
export const homeBody = z.object({
  /** What the organisation is called; left out, it stays. */
  name: writtenLine.max(100, "A name has at most 100 characters.").optional(),
  domains: z.array(domain).min(1, "Give at least one home domain: without one everybody is an outsider.").max(200),
});
const home = z.object({ name: z.string(), domains: z.array(z.string()) });

/** A secret that is sent back as it was shown stays as it was. */
export const UNCHANGED = "unchanged";
const webhook = z.object({
  url: z.url({ protocol: /^https?$/, error: "is not an address such as https://hooks.home.example/latch" }),
  /** By the Standard Webhooks scheme: `whsec_` and at least 24 bytes in base64. */
  secret: z
    .string()
    .regex(/^whsec_[A-Za-z0-9+/]{32,}={0,2}$/, { error: "is not a secret such as whsec_… of 24 bytes or more" }),
});
/** A file in the folder of the logs, and none anywhere else. */
const logName = z
  .string()
  .regex(/^[A-Za-z0-9_-][A-Za-z0-9._-]{0,99}$/, { error: "is not the name of a file such as alerts.log" });
/** Where messages go out: nothing does before it is set. */
export const channels = z.object({
  mail: z
    .object({
      host: z.string().min(1).max(200),
      port: z.int().min(1).max(65_535),
      /** TLS from the first byte; otherwise it is taken up where the server offers it. */
      secure: z.boolean(),
      user: z.string().max(200),
      password: z.string().max(500),
      from: mailAddress,
    })
    .nullable(),
  webhook: webhook.nullable(),
  syslog: z
    .discriminatedUnion("to", [
      z.object({ to: z.literal("file"), name: logName }),
      z.object({ to: z.literal("udp"), port: z.int().min(1).max(65_535) }),
    ])
    .nullable(),
});
/** What may be changed of them. */
export const channelsBody = channels.partial().extend({
  webhook: webhook
    .extend({ secret: webhook.shape.secret.or(z.literal(UNCHANGED)) })
    .nullable()
    .optional(),
});
/** What may be shown of them: no secret. */
const shownChannels = channels.extend({ webhook: webhook.omit({ secret: true }).nullable() });
export type ShownChannels = z.infer<typeof shownChannels>;

export const estateOperations = operations({
  stores: { method: "GET", path: "/api/stores", may: "read", answer: z.object({ stores: z.array(store) }) },
  readNow: {
    method: "POST",
    path: "/api/reading",
    may: "change",
    answer: z.object({
      results: z.array(
        z.object({
          store: z.string(),
          changed: z.number(),
          events: z.number(),
          alerts: z.number(),
          error: z.string().optional(),
        }),
      ),
    }),
  },
  readingNews: {
    method: "GET",
    path: "/api/reading/events",
    may: "read",
    answer: { events: z.object({ reading: z.boolean(), stores: z.array(storeStatus) }) },
  },
  /** All that is known, as an estate file that can be imported again; without the addresses of links. */
  estateFile: {
    method: "GET",
    path: "/api/estate/file",
    may: "change",
    tellsOutsiders: true,
    answer: "file",
  },
  home: { method: "GET", path: "/api/home", may: "read", answer: home },
  setHome: { method: "PUT", path: "/api/home", may: "change", fresh: true, body: homeBody, answer: home },
  channels: { method: "GET", path: "/api/channels", may: "change", answer: shownChannels },
  setChannels: {
    method: "PUT",
    path: "/api/channels",
    may: "change",
    fresh: true,
    body: channelsBody,
    answer: shownChannels,
  },
  /** Sends a mail to whoever asks. */
  testMail: {
    method: "POST",
    path: "/api/channels/test",
    may: "change",
    answer: z.object({ to: z.string() }),
  },
});
