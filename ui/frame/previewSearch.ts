import type { Preview } from "@/core/preview/preview";
import { fold } from "@/core/text/text";

/** From so many lines on, a preview can be searched. */
const MANY = 12;

/** Whether a preview is long enough to be searched. */
export function isLong({ people, items, tighter, later, back, impossible }: Preview): boolean {
  return people.length + items.length + tighter.length + later.length + back.length + impossible.length > MANY;
}

/** What of a preview speaks of a name that has some text in it; all of it where there is none. */
export function previewAbout(preview: Preview, text: string): Preview {
  const wanted = fold(text.trim());
  if (wanted === "") return preview;
  const has = (...names: string[]) => names.some((name) => fold(name).includes(wanted));
  const ofItem = <T extends { itemName: string }>(lines: T[]) => lines.filter(({ itemName }) => has(itemName));
  return {
    ...preview,
    people: preview.people.filter(({ name, address, organisation, loses, keeps, gains }) =>
      has(name, address, organisation, ...loses.names, ...keeps.names, ...gains.names),
    ),
    organisations: preview.organisations.filter(({ organisation }) => has(organisation)),
    items: preview.items.filter(({ name }) => has(name)),
    impossible: preview.impossible.filter(({ name }) => has(name)),
    later: ofItem(preview.later),
    reopened: ofItem(preview.reopened),
    tighter: ofItem(preview.tighter),
    back: ofItem(preview.back),
    newAddresses: ofItem(preview.newAddresses),
  };
}
