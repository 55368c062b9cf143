import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  answerExposure,
  answerFindings,
  answerPaths,
  answerReach,
  answerShortlist,
  answerSuggest,
  answerWho,
} from "@/bin/answers";
import { buildEstate, type Estate } from "@/core/estate/estate";
import { readEstateFile } from "@/core/estate/estateFile";
import { seconds, type Seconds } from "@/core/time/instant";

/** Estates with answers worked out by another program. */
const folder = join(__dirname, "conformance");
const latch = join(__dirname, "../bin/latch");

type Options = { at: Seconds; person: string; item: string; lambda: string; days?: string };
const ANSWERS: Record<string, (estate: Estate, options: Options) => unknown[]> = {
  exposure: (estate, { at }) => answerExposure(estate, at),
  findings: (estate, { at }) => answerFindings(estate, at),
  reach: (estate, { at, person }) => answerReach(estate, at, person),
  who: (estate, { at, item }) => answerWho(estate, at, item),
  paths: (estate, { at, person, item }) => answerPaths(estate, at, person, item),
  suggest: (estate, { at, days }) => answerSuggest(estate, at, days ? Number(days) : undefined),
  shortlist: (estate, { at, lambda }) => answerShortlist(estate, at, Math.round(Number(lambda) * 1_000)),
};

const packs = readdirSync(folder).filter((name) => name.endsWith(".answers.jsonl"));

describe.each(packs)("%s", (pack) => {
  const file = join(folder, pack.replace(".answers.", ".estate."));
  const { records, problems } = readEstateFile(readFileSync(file, "utf8").split("\n"));
  const estate = buildEstate(records);
  const cases = readFileSync(join(folder, pack), "utf8")
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as { args: string[]; lines: string[] });

  test("the estate is read without a problem", () => expect([problems, estate.dangling]).toEqual([[], []]));

  test.each(cases.map((one) => [one.args.join(" "), one] as const))("%s", (_, { args, lines }) => {
    const given = Object.fromEntries(
      args.slice(1).flatMap((arg, i) => (arg.startsWith("--") ? [[arg.slice(2), args[i + 2]]] : [])),
    );
    const options = { ...given, at: given.at ? seconds(given.at) : estate.asOf } as Options;
    expect(ANSWERS[args[0]](estate, options).map((line) => JSON.stringify(line))).toEqual(lines);
  });

  const onCommandLine = ["exposure", "paths", "shortlist", "suggest"].filter((verb) =>
    cases.some(({ args }) => args[0] === verb),
  );
  test.each(onCommandLine)("%s on the command line gives the same lines", (verb) => {
    const { args, lines } = cases.find((one) => one.args[0] === verb)!;
    const out = execFileSync(latch, [verb, file, ...args.slice(1)], { encoding: "utf8" });
    expect(out.split("\n").filter(Boolean)).toEqual(lines);
  });
});

describe("bad input", () => {
  const run = (...args: string[]) => {
    try {
      return { status: 0, out: execFileSync(latch, args, { encoding: "utf8", stdio: "pipe" }), err: "" };
    } catch (error) {
      const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
      return { status, out: stdout, err: stderr };
    }
  };
  const estate = join(folder, "1.estate.jsonl");
  const broken = join(mkdtempSync(join(tmpdir(), "latch-")), "broken.jsonl");
  writeFileSync(broken, readFileSync(estate, "utf8") + '{"type":"party","domain":"x.example","stance":"loved"}\n');

  test("an unknown person or item ends with status 2 and one line", () => {
    expect(run("reach", estate, "--person", "nobody@nowhere.example")).toEqual({
      status: 2,
      out: "",
      err: "latch: unknown person: nobody@nowhere.example\n",
    });
    expect(run("who", estate, "--item", "nothing").status).toBe(2);
  });

  test.each(["-1", "0.1234", "much", "1e3", ""])(
    "a factor of %j is refused with status 2, and what it must be",
    (factor) => {
      const { status, err } = run("shortlist", estate, `--lambda=${factor}`);
      expect([status, err]).toEqual([
        2,
        expect.stringContaining("a number from 0 on with up to three places, such as 2.5"),
      ]);
    },
  );

  test("a sample is a number, and what can't be asked is refused with status 2 and what it must be", () => {
    expect(run("sample", "100000", "5", "0.95")).toEqual({ status: 0, out: "59\n", err: "" });
    for (const [count, percent, confidence, words] of [
      ["0", "5", "0.95", "a whole number from 1"],
      ["9.5", "5", "0.95", "a whole number from 1"],
      ["10", "0", "0.95", "a whole number from 1 to 100"],
      ["10", "101", "0.95", "a whole number from 1 to 100"],
      ["10", "5", "1.5", "a number from 0 to 1 with up to three places"],
      ["10", "5", "0.9501", "a number from 0 to 1 with up to three places"],
    ]) {
      const { status, out, err } = run("sample", count, percent, confidence);
      expect([status, out, err]).toEqual([2, "", expect.stringContaining(words)]);
    }
    expect(run("suggest", estate, "--days", "0").status).toBe(2);
  });

  test("a bad line is named by its number and nothing is answered", () => {
    const { status, out, err } = run("exposure", broken);
    expect([status, out]).toEqual([1, ""]);
    expect(err).toContain(`${broken}:227: bad value: stance`);
  });

  test("a lenient reading skips it, says so, and answers", () => {
    expect(run("findings", broken, "--lenient").out).toBe(run("findings", estate).out);
  });
});
