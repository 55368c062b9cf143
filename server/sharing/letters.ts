import { normaliseAddress } from "@/core/estate/address";
import type {
  GrantRecord,
  ItemRecord,
  LinkRecord,
  PersonRecord,
  ShareRecord,
  StoreRecord,
} from "@/core/estate/records";
import type { ShareRequest } from "@/core/sharing/request";
import { wishWords } from "@/core/sharing/wish";
import { lastDayWords } from "@/core/text/words";
import { seconds } from "@/core/time/instant";
import type { Tx } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { writeLetter } from "../messages/letters";
import { linkedLetter, type LetterContent } from "../messages/letterWords";
import { factNow } from "../records/facts";
import { houseName } from "../records/homeDomains";
import { appendWithin } from "../records/ledger/ledger";
import { shareWords } from "./settings";

/**
 * Tells those whom new shares are for, each in one mail with the link. Where there is a passphrase the mail says so and
 * no more: somebody hands it over by another way.
 */
export async function tellRecipients(app: Platform, tx: Tx, request: ShareRequest): Promise<void> {
  const { wish, docketId } = request;
  const shareFor = await sharesByAddress(tx, request.shares);
  const addresses = new Set((wish.to === "anyone" ? wish.mailTo : wish.to).map(normaliseAddress));
  const said = { house: await houseName(tx), words: await shareWords(tx), store: await storeOf(tx, wish.itemId) };
  let people = 0;
  for (const address of addresses) {
    const share = shareFor(address);
    // Where some of several shares could not be made, there is nothing to send.
    if (!share) continue;
    const content = sentLetter(said, request, share.type === "link" ? share : null);
    await writeLetter(tx, "share-sent", address, { docketId, sealed: app.secrets.seal(JSON.stringify(content)) });
    people++;
  }
  if (people > 0) await appendWithin(tx, request.decidedBy!, "share-sent", { request: request.id, people });
}

/** The share that is for somebody: a right of their own, a link that names them, or else the open link. */
async function sharesByAddress(tx: Tx, ids: readonly string[]): Promise<(address: string) => ShareRecord | undefined> {
  const named = new Map<string, ShareRecord>();
  let open: ShareRecord | undefined;
  for (const id of ids) {
    const link = await factNow<LinkRecord>(tx, "link", id);
    const grant = link ? null : await factNow<GrantRecord>(tx, "grant", id);
    const person = grant && (await factNow<PersonRecord>(tx, "person", grant.toId));
    if (grant && person) named.set(normaliseAddress(person.email), grant);
    if (link?.reach === "open") open = link;
    for (const { email } of link?.recipients ?? []) named.set(normaliseAddress(email), link!);
  }
  return (address) => named.get(address) ?? open;
}

async function storeOf(tx: Tx, itemId: string): Promise<string> {
  const item = await factNow<ItemRecord>(tx, "item", itemId);
  const store = item && (await factNow<StoreRecord>(tx, "store", item.storeId));
  return store?.name ?? "the store";
}

interface Said {
  house: string;
  /** The house's own words. */
  words: string;
  store: string;
}

function sentLetter({ house, words, store }: Said, request: ShareRequest, link: LinkRecord | null): LetterContent {
  const { wish, itemName, askedBy } = request;
  const may = { view: "look at it", comment: "look at it and comment", edit: "look at it and change it" }[wish.role];
  const until = wish.until === null ? "" : ` until ${lastDayWords(seconds(wish.until))}`;
  const lines = [
    [
      `${house || askedBy} shares “${itemName}” with you. You can ${may}${until}${wish.download ? "" : ", but not download it"}.`,
    ],
    link?.address ? [{ words: "Open it here", address: link.address }] : [`You find it in ${store} when you sign in.`],
    ...(words === "" ? [] : [words.split("\n")]),
    ...(link?.password
      ? [["It asks for a passphrase. You are told it by another way, never in a mail with the link."]]
      : []),
    [`If you don’t know what this is, ask ${askedBy}.`],
  ];
  return { ...linkedLetter(`${itemName} is shared with you`, lines), cantWait: true };
}

/** Tells whoever asked what has become of it; whoever made it themselves sees it on the screen. */
export async function tellAsker(app: Platform, tx: Tx, request: ShareRequest): Promise<void> {
  const { askedBy, decidedBy, state, itemName, word, wish, docketId } = request;
  if (askedBy === decidedBy) return;
  const subject = `Your request to share ${itemName} was ${ASKER_WORDS[state] ?? state}`;
  const lines = [
    [wishWords(wish, itemName)],
    ...(word === null ? [] : [[word]]),
    [{ words: "Your requests", address: `${app.settings.url}/my-shares/requests` }],
  ];
  const sealed = app.secrets.seal(JSON.stringify(linkedLetter(subject, lines)));
  await writeLetter(tx, "share-decided", askedBy, { docketId, sealed });
}

const ASKER_WORDS: Partial<Record<ShareRequest["state"], string>> = {
  made: "approved",
  refused: "refused",
  failed: "approved, but could not be carried out",
};
