import { countWords } from "./words";

/** Longer names are cut where they are shown; what is cut off is counted. */
const MOST_SHOWN = 300;
/** Together with the words that say so, a cut name is no longer than the limit, so showing it again changes nothing. */
const KEPT = 260;
/** A name of these characters alone can't mislead. */
const PLAIN = /^[\x20-\x7e]*$/;
const CONTROL = /[\x00-\x1f\x7f]/g;
/** Lines and paragraphs that end within a name. */
const LINE_END = /[\u2028\u2029]/g;
/** Scripts that use joiners and variant forms: those of Persian and India, emoji, Han. */
const JOINING = ["Arabic", "Syriac", "Devanagari", "Bengali", "Tamil", "Telugu", "Kannada", "Malayalam", "Gujarati"]
  .concat(["Gurmukhi", "Oriya", "Sinhala", "Khmer", "Myanmar", "Mongolian", "Han"])
  .map((script) => `\\p{Script=${script}}`)
  .join("");
const JOINED = `(?<![\\p{Extended_Pictographic}\\p{Emoji_Modifier}\\p{M}\\d#*${JOINING}])`;
/** Invisible characters: joiners and variant selectors that have no effect, and all other format characters. */
const UNSEEN = new RegExp(
  `${JOINED}[\\u200c\\u200d\\ufe00-\\ufe0f]|(?![\\u200c\\u200d\\ufe00-\\ufe0f])[\\p{Default_Ignorable_Code_Point}\\p{Bidi_Control}\\p{Cc}\\p{Cf}]`,
  "gu",
);
const BACKWARDS =
  /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\p{Script=Adlam}]/u;
const [FIRST_STRONG_ISOLATE, POP_DIRECTIONAL_ISOLATE] = ["\u2068", "\u2069"];
/** Pictures of controls (Unicode, Control Pictures), each 0x2400 above what it stands for. */
const PICTURES = 0x2400;
const [DELETE_PICTURE, NEW_LINE_PICTURE, UNSEEN_PICTURE] = ["\u2421", "\u2424", "\u2426"];

/**
 * A name that somebody else chose, as it is shown, everywhere: what can't be seen is a mark, so that no name ends a line,
 * turns the text after it round, or looks like another; one that runs from right to left does so by itself.
 */
export function shownName(name: string): string {
  if (name.length <= MOST_SHOWN && PLAIN.test(name)) return name;
  // What is isolated already, as in names that stand one after the other, stays so: a pair of isolates can't lie.
  return cutShort(name.toWellFormed())
    .split(ISOLATED)
    .map((part, n) => (n % 2 === 1 ? isolated(marked(part.slice(1, -1))) : ownDirection(marked(part))))
    .join("");
}

const ISOLATED = /(\u2068[^\u2066-\u2069]*\u2069)/;
const isolated = (text: string) => FIRST_STRONG_ISOLATE + text + POP_DIRECTIONAL_ISOLATE;
const ownDirection = (text: string) => (BACKWARDS.test(text) ? isolated(text) : text);

function marked(text: string): string {
  return text
    .replace(CONTROL, (control) =>
      control === "\x7f" ? DELETE_PICTURE : String.fromCharCode(PICTURES + control.charCodeAt(0)),
    )
    .replace(LINE_END, NEW_LINE_PICTURE)
    .replace(UNSEEN, UNSEEN_PICTURE);
}

function cutShort(text: string): string {
  if (text.length <= MOST_SHOWN) return text;
  const signs = [...text];
  if (signs.length <= MOST_SHOWN) return text;
  return `${signs.slice(0, KEPT).join("")}… (${countWords(signs.length - KEPT, "more character")})`;
}

/** A shown name as it goes into a file: what only steers its direction is left out. */
export function withoutIsolates(name: string): string {
  return name.replaceAll(FIRST_STRONG_ISOLATE, "").replaceAll(POP_DIRECTIONAL_ISOLATE, "");
}

/** Whether a text holds what can't be seen: controls, what turns text round, what has no width, half a character. */
export function holdsUnseen(text: string): boolean {
  if (PLAIN.test(text)) return false;
  return !text.isWellFormed() || text.search(CONTROL) >= 0 || text.search(LINE_END) >= 0 || text.search(UNSEEN) >= 0;
}
