/** The first proposal for what visitors of an intake link read: who asks for files, what for, and whom to ask. */
export function houseWords(house: string, asker: string): string {
  const who = house === "" ? asker : `${asker} of ${house}`;
  return `${who} asks you to send files here: [what is wanted, and by when]. Nobody who sends can see what others have sent. If you didn’t expect this, ask ${asker} before you send anything.`;
}
