import { z } from "zod";
import { type Reads, type Tx, writing } from "../platform/db/open";
import { keepText, keptText } from "../platform/saved";
import { appendWithin } from "../records/ledger";
import type { Platform } from "../platform/platform";

/** A secret that is sent back as it was shown is kept as it was. */
export const UNCHANGED = "unchanged";

const webhook = z.object({
  url: z.url({ protocol: /^https?$/, error: "is not an address such as https://hooks.home.example/latch" }),
  /** By the Standard Webhooks scheme: `whsec_` and at least 24 bytes in base64. */
  secret: z
    .string()
    .regex(/^whsec_[A-Za-z0-9+/]{32,}={0,2}$/, { error: "is not a secret such as whsec_… of 24 bytes or more" }),
});

/** Where messages go out: nothing does before it is set. */
const schema = z.object({
  mail: z
    .object({
      host: z.string().min(1).max(200),
      port: z.int().min(1).max(65_535),
      /** TLS from the first byte; otherwise it is taken up where the server offers it. */
      secure: z.boolean(),
      user: z.string().max(200),
      password: z.string().max(500),
      from: z.email(),
    })
    .nullable(),
  webhook: webhook.nullable(),
  syslog: z
    .discriminatedUnion("to", [
      z.object({ to: z.literal("file"), path: z.string().min(1).max(500) }),
      z.object({ to: z.literal("udp"), port: z.int().min(1).max(65_535) }),
    ])
    .nullable(),
});
export type Channels = z.infer<typeof schema>;

/** What may be changed of them. */
export const channelsSchema = schema.partial().extend({
  webhook: webhook
    .extend({ secret: webhook.shape.secret.or(z.literal(UNCHANGED)) })
    .nullable()
    .optional(),
});

const NOTHING: Channels = { mail: null, webhook: null, syslog: null };
/** These belong to nobody: they are the application's own. */
const NOBODY = "";
const NAME = "channels";

export async function channelsOf(app: Platform, within: Reads = app.db): Promise<Channels> {
  const sealed = await keptText(within, NOBODY, NAME);
  return sealed === undefined ? NOTHING : schema.parse(JSON.parse(app.secrets.unseal(sealed)));
}

/** Changes some of them; kept sealed, since secrets stand in them. */
export function setChannels(app: Platform, changes: Partial<Channels>, actor: string): Promise<void> {
  return writing(app.db, async (within) => {
    await keepText(
      within,
      NOBODY,
      NAME,
      app.secrets.seal(JSON.stringify(schema.parse(await changed(app, within, changes)))),
    );
    await appendWithin(within, actor, "channels-set", { channels: Object.keys(changes) });
  });
}

async function changed(app: Platform, within: Tx, changes: Partial<Channels>): Promise<Channels> {
  const before = await channelsOf(app, within);
  const next = { ...before, ...changes };
  if (next.mail?.password === UNCHANGED) next.mail.password = before.mail?.password ?? "";
  if (changes.webhook && changes.webhook.secret === UNCHANGED && before.webhook)
    next.webhook = { ...changes.webhook, secret: before.webhook.secret };
  return next;
}

/** What may be shown of them: no secret. */
export function shown({ mail, webhook, syslog }: Channels) {
  return {
    mail: mail && { ...mail, password: mail.password === "" ? "" : UNCHANGED },
    webhook: webhook && { url: webhook.url },
    syslog,
  };
}
