import { LABELS } from "@/core/estate/records";
import type { Tightness } from "@/core/register/tightness";
import { LATCH_WORDS, LATCHES } from "@/core/changes/latches";
import { plainWords } from "../parts/words";
import { Link } from "../parts/Link";

/** Labels down, latches across: how many have a latch shut of those that should. A cell leads to those that have not. */
export function TightnessTable({ cells }: { cells: Tightness[] }) {
  const cell = (label: string, latch: string) => cells.find((one) => one.label === label && one.latch === latch)!;
  return (
    <table className="w-full table-fixed text-left">
      <thead className="text-[12px] text-ink-faint">
        <tr>
          <th className="w-24 font-semibold">Label</th>
          {LATCHES.map((latch) => (
            <th key={latch} className="px-1.5 font-semibold">
              {LATCH_WORDS[latch]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {[...LABELS].reverse().map((label) => (
          <tr key={label} className="border-t border-line">
            <th scope="row" className="py-1.5 font-normal">
              {plainWords(label)}
            </th>
            {LATCHES.map((latch) => (
              <td key={latch} className="px-1.5 py-1.5 tabular-nums">
                <Cell {...cell(label, latch)} />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Cell({ label, latch, shut, should }: Tightness) {
  if (should === 0) return <span className="text-ink-faint">none</span>;
  const query = `outside:yes state:live label:${label} latch:${latch}`;
  const words = `${shut.toLocaleString("en-GB")} of ${should.toLocaleString("en-GB")}`;
  return (
    <Link href={`/register?${new URLSearchParams({ q: query })}`} title="Shares without it" className="block">
      {words}
      <span aria-hidden className="mt-0.5 block h-1.5 bg-copper">
        <span className="block h-full bg-verdigris" style={{ width: `${(shut / should) * 100}%` }} />
      </span>
    </Link>
  );
}
