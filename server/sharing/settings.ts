import {
  type FreeRequests,
  freeRequestsSchema,
  STANDARD_TEMPLATES,
  type Templates,
  templatesSchema,
} from "@/core/sharing/templates";
import { type Db, type Reads, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";

const NOBODY = "";
const TEMPLATES = "share-templates";
const FREE = "free-requests";
const WORDS = "share-words";

/** What the sentence begins with, by label. */
export async function shareTemplates(db: Reads): Promise<Templates> {
  const kept = await savedText(db, NOBODY, TEMPLATES);
  return kept === undefined ? STANDARD_TEMPLATES : templatesSchema.parse(JSON.parse(kept));
}

export function setShareTemplates(db: Db, templates: Templates, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const kept = JSON.stringify(templates);
    await saveText(tx, NOBODY, TEMPLATES, kept);
    await appendWithin(tx, actor, "share-templates-set", { templates: kept });
  });
}

/** Which requests need nobody's approval. */
export async function freeRequests(db: Reads): Promise<FreeRequests> {
  const kept = await savedText(db, NOBODY, FREE);
  return kept === undefined ? null : freeRequestsSchema.parse(JSON.parse(kept));
}

export function setFreeRequests(db: Db, free: FreeRequests, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    await saveText(tx, NOBODY, FREE, JSON.stringify(free));
    const { labels, maxDays, named } = free ?? { labels: [], maxDays: null, named: false };
    await appendWithin(tx, actor, "free-requests-set", { labels, maxDays, named });
  });
}

/** What the mail to those whom a share is for says in the house's own words; empty where nobody has written any. */
export async function shareWords(db: Reads): Promise<string> {
  return (await savedText(db, NOBODY, WORDS)) ?? "";
}

export function setShareWords(db: Db, words: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    await saveText(tx, NOBODY, WORDS, words);
    await appendWithin(tx, actor, "share-words-set", { words });
  });
}
