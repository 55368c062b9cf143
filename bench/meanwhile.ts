import { timed } from "./timing";

const QUERIES = 100;
const SCOPES = ["everything", ...["restricted", "confidential", "internal", "public"].map((label) => `label:${label}`)];

/** Asks the register a mixed question, by number. */
type AskRegister = (run: number) => Promise<unknown>;
/** Asks for an address of the application. */
type Ask = (path: string) => Promise<unknown>;

interface Asking {
  ask: Ask;
  askRegister: AskRegister;
  add: (what: string, value: number, wanted: number | null) => void;
}

/** The curve as people wait for it, and the register while one curve after the other is worked out. */
export async function measureMeanwhile({ ask, askRegister, add }: Asking) {
  const began = performance.now();
  await ask("/api/shortlist");
  add("where to start: the curve through the route, cold", performance.now() - began, 3_000);
  add(
    "where to start: a point of it",
    (await timed(5, () => ask("/api/shortlist/point?changes=1000"), 0)).median,
    1_000,
  );
  const alone = await timed(QUERIES, askRegister, 0);
  let [isOver, curves] = [false, 0];
  const working = (async () => {
    // Few are held ready: each is worked out anew by the time that it is asked for again.
    for (; !isOver; curves++) await ask(`/api/shortlist?scope=${SCOPES[curves % SCOPES.length]}`);
  })();
  const meanwhile = await timed(QUERIES, askRegister, 0);
  isOver = true;
  await working;
  add("the register through the route, p95, alone", alone.p95, null);
  add(`the same while ${curves} curves were worked out`, meanwhile.p95, 2 * alone.p95);
}
