import { EntrySheet } from "./EntrySheet";

/** What an owner sees while nobody has asked them anything. */
export function NothingForYou({ name }: { name: string }) {
  return (
    <EntrySheet title="Nothing needs a word from you">
      <p>
        Hello {name}. When an administrator asks you about shares of yours, they will stand here, and you will get a
        message.
      </p>
    </EntrySheet>
  );
}
