import type { NotNull } from "kysely";
import { generatePassphrase } from "secure-password-utilities";
import { EFF_LONG_WORDLIST } from "secure-password-utilities/wordlists";
import type { HandedOver } from "@/contract/dockets";
import { byText } from "@/core/text/text";
import { DAY } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { ownerAndPlace } from "./byHand";
import { resealEach } from "../platform/resealing";
import { appendWithin } from "../records/ledger/ledger";
import type { Platform } from "../platform/platform";

/** The EFF's long list without the four words with a hyphen, since hyphens separate words here. */
export const WORD_LIST = EFF_LONG_WORDLIST.filter((word) => !word.includes("-"));
/** Six of these 7,772 words are 77.5 bits, by chance alone. */
const WORDS = 6;
/** A passphrase that nobody has fetched by then is wiped, and the link needs a new one. */
const KEPT_FOR_S = 7 * DAY;

export function newPassphrase(): string {
  return generatePassphrase(WORDS, WORD_LIST, "-");
}

/** The passphrase that a change sets, the same each time it is sent. It is stored sealed before anything is sent. */
export function passphraseFor(app: Platform, change: { id: string; share_id: string | null }): Promise<string> {
  return writing(app.db, async (within) => {
    const known = await within
      .selectFrom("passphrase")
      .select("sealed")
      .where("change_id", "=", change.id)
      .executeTakeFirst();
    if (known?.sealed) return app.secrets.unseal(known.sealed);
    const fresh = newPassphrase();
    const kept = {
      sealed: app.secrets.seal(fresh),
      made_at: within.clock.seconds(),
      shown_at: null,
      shown_to: null,
      wiped_at: null,
    };
    await within
      .insertInto("passphrase")
      .values({ change_id: change.id, share_id: change.share_id ?? "", ...kept })
      .onConflict((conflict) => conflict.column("change_id").doUpdateSet(kept))
      .execute();
    return fresh;
  });
}

/** Forgets a passphrase that was never set. */
export async function dropPassphrase(db: Db, changeId: string): Promise<void> {
  await db.deleteFrom("passphrase").where("change_id", "=", changeId).execute();
}

/**
 * Shows a passphrase once, to the person who hands it over, and wipes it.
 * @throws {Problem} where there is none, or it has been shown or wiped
 */
export function showOnce(app: Platform, changeId: string, actor: string): Promise<string> {
  return writing(app.db, (within) => showWithin(app, within, changeId, actor));
}

async function showWithin(app: Platform, within: Tx, changeId: string, actor: string): Promise<string> {
  const kept = await within
    .selectFrom("passphrase")
    .innerJoin("docket_change", "docket_change.id", "passphrase.change_id")
    .select(["sealed", "shown_to", "passphrase.share_id", "docket_change.state"])
    .where("change_id", "=", changeId)
    .executeTakeFirst();
  if (!kept || kept.state !== "done") throw new Problem("unknown", "No passphrase was set by this change.");
  if (kept.sealed === null)
    throw new Problem(
      "gone",
      kept.shown_to
        ? `It was shown to ${kept.shown_to} already. Stage a new password where it is lost.`
        : "It was deleted after 7 days. Set a new password.",
    );
  await within
    .updateTable("passphrase")
    .set({ sealed: null, shown_at: within.clock.seconds(), shown_to: actor, wiped_at: within.clock.seconds() })
    .where("change_id", "=", changeId)
    .execute();
  await appendWithin(within, actor, "passphrase-shown", { change: changeId, shareId: kept.share_id });
  return app.secrets.unseal(kept.sealed);
}

/** How many passphrases of a docket have still to be handed over. */
export async function countWaiting(db: Reads, docketId: string): Promise<number> {
  return (await waitingOf(db, docketId).execute()).length;
}

function waitingOf(db: Reads, docketId: string) {
  return db
    .selectFrom("docket_change")
    .innerJoin("passphrase", "passphrase.change_id", "docket_change.id")
    .selectAll("docket_change")
    .where("docket_id", "=", docketId)
    .where("state", "=", "done")
    .where("sealed", "is not", null)
    .orderBy("position");
}

/**
 * Shows all passphrases of a docket that wait, for one sheet by owner, each without the address that it opens. What is
 * shown is wiped, as when one is shown by itself.
 */
export function showAllOnce(app: Platform, docketId: string, actor: string): Promise<HandedOver[]> {
  return writing(app.db, async (within) => {
    const sheet: HandedOver[] = [];
    for (const row of await waitingOf(within, docketId).execute())
      sheet.push({
        ...(await ownerAndPlace(within, row)),
        itemName: row.item_name,
        audience: row.audience,
        passphrase: await showWithin(app, within, row.id, actor),
      });
    return sheet.sort((a, b) => byText(a.owner, b.owner) || byText(a.where, b.where) || byText(a.itemName, b.itemName));
  });
}

/** Wipes what nobody has asked for in time. @returns how many */
export async function wipeOld(db: Db): Promise<number> {
  const { numUpdatedRows } = await db
    .updateTable("passphrase")
    .set({ sealed: null, wiped_at: db.clock.seconds() })
    .where("sealed", "is not", null)
    .where("made_at", "<=", db.clock.seconds() - KEPT_FOR_S)
    .executeTakeFirst();
  return Number(numUpdatedRows);
}

/** @returns how many that wait to be handed over were sealed anew */
export async function resealPassphrases({ secrets }: Platform, tx: Tx): Promise<number> {
  const kept = await tx
    .selectFrom("passphrase")
    .select(["change_id as id", "sealed"])
    .where("sealed", "is not", null)
    .$narrowType<{ sealed: NotNull }>()
    .execute();
  return resealEach(secrets, kept, (id, sealed) =>
    tx.updateTable("passphrase").set({ sealed }).where("change_id", "=", id).execute(),
  );
}
