/**
 * Marks that people leave out when they look for something: accents, Hebrew points, Arabic vowels. The vowels of the
 * scripts of India, the tones of Thai and the voicing of kana make another word, and stay.
 */
const OPTIONAL_MARKS =
  /[\u0300-\u036f\u0483-\u0487\u0591-\u05bd\u05bf\u05c1\u05c2\u05c4\u05c5\u05c7\u0610-\u061a\u064b-\u065f\u0670\u06d6-\u06dc\u06df-\u06e8\u06ea-\u06ed\u1ab0-\u1aff\u1dc0-\u1dff\u20d0-\u20ff\ufe20-\ufe2f]/g;
/** The marks that `shownName` puts in the place of what can't be seen: whoever looks for a name doesn't type them. */
const MARKS = /[\u2400-\u2426]/g;
/** Joiners, soft hyphens, marks of direction, and others that can't be seen. */
const UNSEEN = /\p{Default_Ignorable_Code_Point}/gu;

/**
 * How texts are compared, everywhere: in one form for what looks the same (Unicode NFKD and back), without optional
 * marks, and without case. So "Zoë" is found by "zoe", "Straße" by "STRASSE", and wide letters by narrow ones.
 */
export function fold(text: string): string {
  if (/^[\x00-\x7f]*$/.test(text)) return text.toLowerCase();
  const plain = text.normalize("NFKD").replace(UNSEEN, "").replace(MARKS, "").replace(OPTIONAL_MARKS, "");
  // Down, up and down again: what has several forms, as ß and ς have, ends in one.
  const caseless = plain.toLowerCase().toUpperCase().toLowerCase().normalize("NFKD").replace(OPTIONAL_MARKS, "");
  return caseless.replaceAll("ς", "σ").normalize("NFC");
}

/** The words of a text as they are looked for: runs of letters, digits and what belongs to them, folded. */
export function wordsIn(text: string): string[] {
  return fold(text).match(/[\p{L}\p{N}\p{M}]+/gu) ?? [];
}

/** Scripts written without spaces between words: any part of a run may be a word. */
const SPACELESS =
  ["Han", "Hiragana", "Katakana", "Thai", "Lao", "Khmer", "Myanmar", "Tibetan"]
    .map((script) => `\\p{Script=${script}}`)
    .join("") + "\u30fc";
const PIECE = new RegExp(`[${SPACELESS}]\\p{M}*|[^${SPACELESS}]+`, "gu");

/** Words as an index of words keeps them: those of scripts without spaces letter by letter, all others whole. */
export function piecesOf(words: readonly string[]): string[] {
  return words.flatMap((word) => (/^[\x00-\x7f]*$/.test(word) ? word : (word.match(PIECE) ?? [])));
}

/** Whether some pieces stand among others, one after the other, the last of them perhaps only begun. */
export function standAmong(pieces: readonly string[], all: readonly string[]): boolean {
  const last = pieces.length - 1;
  return all.some(
    (_, from) =>
      (all[from + last]?.startsWith(pieces[last]) ?? false) &&
      pieces.slice(0, last).every((piece, i) => all[from + i] === piece),
  );
}

/** Texts in the order in which people look for them. */
export function byText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** A text as it begins a sentence. */
export function begun(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A text as it stands within a sentence: a name or an address further on stays as it is. */
export function within(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
