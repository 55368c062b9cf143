import type { Db } from "../platform/db/open";
import { namedAsKnown, namedThere } from "../records/names";
import type { StoreAdapter } from "./adapter";

/**
 * A store that is addressed with our ids and understands its own. Its answer to a change still has its own
 * names still: it is given ours where it is kept, in the same transaction.
 */
export function namedStore(db: Db, source: string, store: StoreAdapter): StoreAdapter {
  return {
    ...store,
    async apply(change, key, passphrase) {
      return store.apply(await namedThere(db, source, change), key, passphrase);
    },
    async share(id) {
      const there = await namedThere(db, source, { action: "revoke", shareId: id });
      const share = await store.share("shareId" in there ? there.shareId : id);
      return (await namedAsKnown(db, source, [share]))[0];
    },
    async probe(change, before, made) {
      return store.probe(await namedThere(db, source, change), before, made);
    },
  };
}
