/** How texts are compared: without case and without marks on letters, so that "Zoë" is found by "zoe". */
export function fold(text: string): string {
  if (/^[\x00-\x7f]*$/.test(text)) return text.toLowerCase();
  return text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
}

/** The words of a text as they are looked for: runs of letters and digits, folded. */
export function wordsIn(text: string): string[] {
  return fold(text).match(/[\p{L}\p{N}]+/gu) ?? [];
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
