import { BY_NAME } from "@/core/evidence/pseudonyms";
import type { PackSpan } from "./tables";

const PSEUDONYMS = `
Outsiders stand in it by pseudonyms, such as p-3f9c1a2b4d5e6f70@o-0a1b2c3d4e5f6071.invalid: the same person has the same
one everywhere in here, and people of one organisation the same domain. Whoever made it has the key. What people wrote in
their own words is left out, and so are the ledger's details. Names of items, folders and groups stand as they are.
`;

/** What is in a pack, in plain words, and how to check it. */
export function readme({ days: [from, to], scope, naming }: PackSpan): string {
  return `WHAT THIS IS

Evidence of what was shared outside from ${from} to ${to} (days of UTC), and of what was decided and done about it.
${scope === "" ? "It is about everything." : `Its tables are narrowed by the query: ${naming.text(scope)}`}
The entries of the ledger are never narrowed.
${naming === BY_NAME ? "" : PSEUDONYMS}
WHAT IS IN IT

manifest.json       the list of the other files, with the length and the SHA-256 of each
report.pdf          what a person reads first
estate/DAY.jsonl    everything known at the end of the first and of the last day, without the addresses of links
register.csv        every share at the end of the last day
findings.csv        which of them breaks which rule
rules.json          how the rules were set then
waivers.csv         leave that was given for a share to break a rule
events.csv          visits, downloads and changes in the span
dockets.csv         what was decided; receipts.csv: what came of each change
rounds.csv          what owners were asked; decisions.csv: what they answered
readings.csv        when each store was read, how often that failed, and the longest gap: whether all of this is complete
key.txt             the keys that sign, the newest first: NAME+ID+KEY
verify.html         checks all of it: open it in a browser and drop the ZIP on it; it needs no network
ledger/             the entries of the ledger from the one before the span to the one that says that this pack was made,
                    with what proves that they are all there and unchanged

HOW TO CHECK IT WITH OPENSSL ALONE

The newest checkpoint is signed:

  cd ledger
  head -n 3 checkpoint.txt > text
  sed -n 5p checkpoint.txt | cut -d' ' -f3 | openssl base64 -d -A | tail -c 64 > signature
  openssl pkeyutl -verify -pubin -inkey key.pem -rawin -in text -sigfile signature

Each file is what manifest.json lists:

  openssl dgst -sha256 register.csv

and manifest.json is what the last entry of ledger/entries.jsonl says:

  openssl dgst -sha256 manifest.json

Each line N of ledger/entries.jsonl is a leaf of a Merkle tree (RFC 9162, section 2.1): SHA-256 over a zero byte and the
line without its line end. The same line of ledger/proofs.jsonl has the hashes that lead from it to the root in the third
line of ledger/checkpoint.txt. ledger/consistency.jsonl proves that the ledger only grew from each earlier checkpoint.

WHAT NOTHING IN HERE CAN PROVE

That the key is the right one. Compare key.txt with the key that you were given by another way, or a checkpoint in
ledger/checkpoints with one that you have kept.
`;
}
