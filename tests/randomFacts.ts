import type { Held } from "@/core/access/history";
import { type EstateRecord, recordKey } from "@/core/estate/records";
import { ALWAYS, DAY, NEVER } from "@/core/time/instant";
import { T } from "./records";

/** Days before and after the instant of the records, some of them a second off. */
export const INSTANTS = Array.from({ length: 24 }, (_, i) => T + (i - 12) * DAY + (i % 3) - 1);

/** A history in which records change at random times; each holds until the next of its kind and key. */
export function factsOf(records: EstateRecord[], readings: EstateRecord[][], times: number[]): Held[] {
  const facts: Held[] = records.map((record) => ({ record, from: ALWAYS, to: NEVER }));
  const open = new Map(facts.map((fact) => [fact.record.type + recordKey(fact.record), fact]));
  for (const [i, put] of readings.entries())
    for (const record of put) {
      const from = T + ((times[i % times.length] % 20) - 10) * DAY;
      const before = open.get(record.type + recordKey(record));
      if (before && before.from >= from) continue;
      if (before) before.to = from;
      const fact = { record, from, to: NEVER };
      open.set(record.type + recordKey(record), fact);
      facts.push(fact);
    }
  return facts;
}
