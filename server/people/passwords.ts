import { MIN_PASSWORD, MIN_PASSWORD_WITH_FACTOR } from "@/contract/people";

/** What is known about whoever is choosing a password. */
interface Chooser {
  name: string;
  email: string;
  /** A password with a second factor may be shorter (NIST SP 800-63B-4, 3.1.1.2). */
  hasFactor: boolean;
}

/** The least that must be left of a password without the words that everybody knows about its owner. */
const LEAST_OF_ITS_OWN = 8;
const LEAST_CHARACTERS = 5;
const OF_THE_HOUSE = ["tight latch", "tightlatch", "password", "passphrase"];

/** What is wrong with a password, worded for whoever is choosing it; null if nothing is. */
export async function faultIn(password: string, { name, email, hasFactor }: Chooser): Promise<string | null> {
  const least = hasFactor ? MIN_PASSWORD_WITH_FACTOR : MIN_PASSWORD;
  if ([...password].length < least) return `A password has at least ${least} characters.`;
  const plain = password.normalize("NFKC").toLowerCase();
  if (new Set(plain).size < LEAST_CHARACTERS) return "That is one character repeated. Choose another password.";
  if ((await commonPasswords()).has(plain)) return "Many people use that password. Choose another one.";
  const [local, domain] = email.toLowerCase().split("@");
  const known = [...OF_THE_HOUSE, local, ...domain.split("."), ...name.toLowerCase().split(/\s+/)];
  const own = known.filter((word) => word.length > 3).reduce((rest, word) => rest.replaceAll(word, ""), plain);
  if (own.length < Math.min(LEAST_OF_ITS_OWN, least))
    return "That is too close to your name, your address or the name of this tool. Choose another password.";
  return null;
}

type Lists = Pick<typeof import("@zxcvbn-ts/language-common"), "dictionary">;

let common: Promise<ReadonlySet<string>> | undefined;

/** About fifty thousand, most used first, from zxcvbn's list; read when somebody first chooses a password. */
function commonPasswords(): Promise<ReadonlySet<string>> {
  return (common ??= import("@zxcvbn-ts/language-common").then((given: Lists & { default?: Lists }) => {
    // It is CommonJS: if the bundler leaves it so, the whole module is the default export.
    const { dictionary } = given.default ?? given;
    return new Set(dictionary["passwords-common"] as string[]);
  }));
}
