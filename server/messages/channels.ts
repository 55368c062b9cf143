import type { z } from "zod";
import { channels, type ShownChannels, UNCHANGED } from "@/contract/estate";
import { type Reads, type Tx, writing } from "../platform/db/open";
import { resealEach } from "../platform/resealing";
import { saveText, savedText } from "../platform/saved";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import type { Platform } from "../platform/platform";

export type Channels = z.infer<typeof channels>;

const NOTHING: Channels = { mail: null, webhook: null, syslog: null };
/** The application's own, not a person's. */
const NOBODY = "";
const NAME = "channels";

export async function channelsOf(app: Platform, within: Reads = app.db): Promise<Channels> {
  const sealed = await savedText(within, NOBODY, NAME);
  return sealed === undefined ? NOTHING : channels.parse(asToday(JSON.parse(app.secrets.unseal(sealed))));
}

/** A log file used to be anywhere; it is a name in the folder of logs now, and has to be set again. */
function asToday(saved: { syslog: { path?: string } | null }) {
  return saved.syslog?.path === undefined ? saved : { ...saved, syslog: null };
}

/** Changes some of them; they are kept sealed, since they contain secrets. */
export function setChannels(app: Platform, changes: Partial<Channels>, actor: string): Promise<void> {
  return writing(app.db, async (within) => {
    await saveText(
      within,
      NOBODY,
      NAME,
      app.secrets.seal(JSON.stringify(channels.parse(await changed(app, within, changes)))),
    );
    await appendWithin(within, actor, "channels-set", { channels: Object.keys(changes) });
  });
}

/** @returns how many settings were sealed anew */
export async function resealChannels({ secrets }: Platform, tx: Tx): Promise<number> {
  const sealed = await savedText(tx, NOBODY, NAME);
  const kept = sealed === undefined ? [] : [{ id: NAME, sealed }];
  return resealEach(secrets, kept, (name, text) => saveText(tx, NOBODY, name, text));
}

async function changed(app: Platform, within: Tx, changes: Partial<Channels>): Promise<Channels> {
  const before = await channelsOf(app, within);
  const next = { ...before, ...changes };
  if (next.mail?.password === UNCHANGED) next.mail = { ...next.mail, password: keptPassword(before.mail, next.mail) };
  if (changes.webhook && changes.webhook.secret === UNCHANGED && before.webhook)
    next.webhook = { ...changes.webhook, secret: before.webhook.secret };
  return next;
}

/** A password stays with the server and the user that it was given for. @throws {Problem} where it would go to others */
function keptPassword(before: Channels["mail"], next: NonNullable<Channels["mail"]>): string {
  if (!before || before.password === "") return "";
  const isSame = before.host === next.host && before.port === next.port && before.user === next.user;
  if (isSame && before.secure === next.secure) return before.password;
  throw new Problem("bad", "The server, port, user or TLS setting has changed: enter the password again.");
}

/** What may be shown of them: no secret. */
export function shown({ mail, webhook, syslog }: Channels): ShownChannels {
  return {
    mail: mail && { ...mail, password: mail.password === "" ? "" : UNCHANGED },
    webhook: webhook && { url: webhook.url },
    syslog,
  };
}
