import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import * as common from "@zxcvbn-ts/language-common";
import * as english from "@zxcvbn-ts/language-en";
import { EFF_LONG_WORDLIST } from "secure-password-utilities/wordlists";
import { newPassphrase, WORD_LIST } from "./passphrases";

const words = newPassphrase().split("-");

test("a passphrase is six words of the EFF's long list, chosen by chance: 77 bits at least", () => {
  expect(words).toHaveLength(6);
  expect(words.every((word) => EFF_LONG_WORDLIST.includes(word))).toBe(true);
  expect(new Set(WORD_LIST).size).toBe(WORD_LIST.length);
  // J. Bonneau, "EFF's New Wordlists for Random Passphrases" (2016): 7,776 words, 12.9 bits each; we leave out
  // the four that hold a hyphen.
  expect(EFF_LONG_WORDLIST).toHaveLength(7_776);
  expect(words.length * Math.log2(WORD_LIST.length)).toBeGreaterThanOrEqual(77);
});

test("a thousand of them are a thousand, and every word has its chance", () => {
  const made = Array.from({ length: 1_000 }, newPassphrase);
  expect(new Set(made).size).toBe(1_000);
  // Of 7,772 words, 6,000 draws leave out each with a chance of e^(-6000/7772): some 54 in 100 are seen.
  const seen = new Set(made.flatMap((one) => one.split("-"))).size / WORD_LIST.length;
  expect(seen).toBeGreaterThan(0.49);
  expect(seen).toBeLessThan(0.59);
});

test("zxcvbn, which knows the words and how people choose, gives every one its best mark", () => {
  const judge = new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
    translations: english.translations,
  });
  for (let i = 0; i < 20; i++) {
    const { score, guessesLog10 } = judge.check(newPassphrase());
    expect(score).toBe(4);
    // Ten to the fourteenth guesses and more, though it thinks that each word stands in its list of common ones.
    expect(guessesLog10).toBeGreaterThan(14);
  }
  expect(judge.check("concert2026").score).toBeLessThan(3);
});
