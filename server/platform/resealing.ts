import type { Secrets } from "./secrets";

/** A secret as it is kept, and under which name. */
interface Kept<Id> {
  id: Id;
  sealed: string;
}

/** Seals anew, by the newest key, each that another has sealed. @returns how many */
export async function resealEach<Id>(
  secrets: Secrets,
  kept: readonly Kept<Id>[],
  keep: (id: Id, sealed: string) => Promise<unknown>,
): Promise<number> {
  let count = 0;
  for (const { id, sealed } of kept) {
    const anew = secrets.resealed(sealed);
    if (anew === null) continue;
    await keep(id, anew);
    count++;
  }
  return count;
}
