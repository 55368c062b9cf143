import { type UnzipFileInfo, unzipSync } from "fflate";
import { type PackFiles, verifyPack } from "../core/evidence/verifyPack";
import { readKeyLine } from "../core/ledger/checkpoint";

/** The page that checks a pack in a browser, whoever made it. It is built into one file that needs no network. */
const element = (id: string) => document.getElementById(id)!;
const key = element("key") as HTMLInputElement;
const file = element("file") as HTMLInputElement;
const outcome = element("outcome");
const lines = element("lines");

file.addEventListener("change", () => file.files?.[0] && void check(file.files[0]));
document.addEventListener("dragover", (event) => event.preventDefault());
document.addEventListener("drop", (event) => {
  event.preventDefault();
  const [dropped] = event.dataTransfer?.files ?? [];
  if (dropped) void check(dropped);
});

async function check(pack: File) {
  lines.replaceChildren();
  tell("Checking…", "");
  try {
    const kept = key.value.trim() === "" ? {} : { key: readKeyLine(key.value) };
    for await (const line of verifyPack(filesIn(new Uint8Array(await pack.arrayBuffer())), kept)) {
      const item = document.createElement("li");
      item.textContent = line;
      lines.append(item);
      // Lets the browser show what has been checked so far.
      await new Promise((shown) => setTimeout(shown));
    }
    tell(
      kept.key ? "Everything checks out." : "Everything is consistent. Compare its key with one that you hold.",
      "holds",
    );
  } catch (error) {
    tell(`It doesn’t check out. ${(error as Error).message}`, "wrong");
  }
}

function tell(words: string, look: string) {
  outcome.textContent = words;
  outcome.className = look;
}

/** What deflate packs is at most so many times as long (zlib's technical details: 1,032 to 1). */
const MOST_TIMES = 1_032;

/** Room is made for as much as a file says that it has: one that can't have so much would take all the memory there is. */
function checkSize({ name, size, originalSize }: UnzipFileInfo, zipSize: number) {
  if (size > zipSize || originalSize > MOST_TIMES * size) throw new Error(`${name}: can’t be as long as the ZIP says.`);
}

/** Each file is unpacked when it is read, so that not all of them are in memory. */
function filesIn(zip: Uint8Array): PackFiles {
  const paths: string[] = [];
  unzipSync(zip, { filter: (file) => (checkSize(file, zip.length), paths.push(file.name), false) });
  return {
    paths,
    async *open(path) {
      yield unzipSync(zip, { filter: ({ name }) => name === path })[path];
    },
  };
}
