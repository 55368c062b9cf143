import { type Change, changeSchema } from "@/core/changes/change";
import type { NoticesView, Telling, ToldAudience, ToldLine, ToldPerson } from "@/core/changes/telling";
import type { EstateRecord, LinkRecord } from "@/core/estate/records";
import { Problem } from "../platform/problem";
import { type Db, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { lettersAbout, writeLetter } from "../messages/letters";
import { docketLetter } from "../messages/letterWords";
import { factNow } from "../records/facts";
import { namingOf } from "./lifecycle";
import type { Asking } from "../engine/client";

/** What to tell about the changes that a docket made, and who has been told. */
export async function noticesView(app: Asking, docketId: string): Promise<NoticesView> {
  const letters = await lettersAbout(app.db, docketId);
  return {
    telling: await tellingOfDocket(app, docketId),
    ...(await namingOf(app.db, docketId)),
    sent: letters.map(({ kind, target, state }) => {
      return { audience: kind === "docket-owners" ? "owners" : "recipients", address: target, state };
    }),
  };
}

async function tellingOfDocket(app: Asking, docketId: string): Promise<Telling> {
  const rows = await app.db
    .selectFrom("docket_change")
    .select(["body", "answered"])
    .where("docket_id", "=", docketId)
    .where("state", "=", "done")
    .orderBy("position")
    .execute();
  const changes = rows.map(({ body, answered }) => {
    const change = changeSchema.parse(JSON.parse(body));
    const isMade = change.action === "make-link" || change.action === "remake-link";
    return { change, made: isMade ? madeIn(answered) : null };
  });
  return app.engine.ask("telling", { changes });
}

/** By link id: who needs the address of a new link, or passes it on. */
export async function toldOfLinks(app: Asking, changes: readonly { change: Change; response: string | null }[]) {
  const made = changes.map(({ change, response }) => ({ change, made: madeIn(response) }));
  const { recipients } = await app.engine.ask("telling", { changes: made });
  const told = new Map<string, string[]>();
  for (const { address, lines } of recipients)
    for (const { newLink } of lines) if (newLink) told.set(newLink, [...(told.get(newLink) ?? []), address]);
  return (response: string | null) => told.get(madeIn(response) ?? "") ?? [];
}

function madeIn(answered: string | null): string | null {
  const records: EstateRecord[] = answered === null ? [] : JSON.parse(answered);
  return records.find((record) => record.type === "link")?.id ?? null;
}

/** What goes out: the recipients, and the words before each one's list. */
export interface NoticeAsked {
  audience: ToldAudience;
  subject: string;
  head: string;
  addresses: string[];
}

/**
 * Sends notices, one to each person however many changes concern them; people who have been told are
 * skipped. @returns how many go out
 * @throws {Problem} where an address has nothing to do with the docket
 */
export async function sendNotices(app: Asking, docketId: string, asked: NoticeAsked, actor: string): Promise<number> {
  const { telling, sent } = await noticesView(app, docketId);
  const people = asked.addresses.map((address) => {
    const person = telling[asked.audience].find((one) => one.address === address);
    if (!person) throw new Problem("bad", `This docket has nothing to tell ${address}.`);
    return person;
  });
  const isTold = ({ address }: ToldPerson) =>
    sent.some((one) => one.audience === asked.audience && one.address === address && one.state !== "aside");
  const fresh = people.filter((one) => !isTold(one));
  const letters = await Promise.all(
    fresh.map(async ({ address, lines }) => ({
      address,
      content: docketLetter(asked, await Promise.all(lines.map((line) => withAddress(app.db, line)))),
    })),
  );
  return writing(app.db, async (within) => {
    for (const { address, content } of letters)
      await writeLetter(within, `docket-${asked.audience}`, address, {
        docketId,
        sealed: app.secrets.seal(JSON.stringify(content)),
      });
    const { audience, subject } = asked;
    await appendWithin(within, actor, "docket-told", { docket: docketId, audience, subject, people: letters.length });
    return letters.length;
  });
}

async function withAddress(db: Db, line: ToldLine) {
  const link = line.newLink === null ? null : await factNow<LinkRecord>(db, "link", line.newLink);
  return { ...line, address: link?.address ?? null };
}
