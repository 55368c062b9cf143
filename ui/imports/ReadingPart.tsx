"use client";

import { shownName } from "@/core/text/shown";
import type { LookTold } from "@/contract/imports";
import { type Encoding, ENCODINGS, type Separator, SEPARATORS } from "@/core/imports/file";
import type { Mapping } from "@/core/imports/mapping";
import { Choice } from "../parts/Choice";
import { ENCODING_WORDS, SEPARATOR_WORDS } from "./words";

export interface FileReading {
  encoding: Encoding;
  separator: Separator;
  sheet: string | null;
}

interface Props {
  look: LookTold;
  mapping: Mapping;
  onRead: (reading: Partial<FileReading>) => void;
  onMap: (change: Partial<Mapping>) => void;
}

/** How the file itself is read, with its first lines as a result, so that garbled ones are noticed. */
export function ReadingPart({ look, mapping, onRead, onMap }: Props) {
  const { isWorkbook, encoding, separator, sheets, sheet, rows } = look;
  const headings = `${mapping.headingRow} ${mapping.headingRows}`;
  return (
    <section aria-labelledby="reading" className="mt-5">
      <h2 id="reading" className="text-[17px] font-semibold">
        How the file is read
      </h2>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {isWorkbook ? (
          <Choice
            label="Sheet"
            value={sheet ?? sheets[0]}
            choices={sheets.map((value) => ({ value, words: shownName(value) }))}
            onPick={(value) => onRead({ sheet: value })}
          />
        ) : (
          <>
            <Choice
              label="Encoding"
              value={encoding}
              choices={ENCODINGS.map((value) => ({ value, words: ENCODING_WORDS[value] }))}
              onPick={(value) => onRead({ encoding: value, separator })}
            />
            <Choice
              label="Between cells"
              value={separator}
              choices={SEPARATORS.map((value) => ({ value, words: SEPARATOR_WORDS[value] }))}
              onPick={(value) => onRead({ encoding, separator: value })}
            />
          </>
        )}
        <Choice
          label="Headings"
          value={headings}
          choices={headingChoices(rows.length)}
          onPick={(value) => {
            const [headingRow, headingRows] = value.split(" ").map(Number);
            onMap({ headingRow, headingRows });
          }}
        />
      </div>
      <div
        className="mt-3 max-h-40 overflow-auto border border-line bg-surface"
        tabIndex={0}
        role="region"
        aria-label="The first rows of the file"
      >
        <table className="text-[12.5px]">
          <tbody>
            {rows.slice(0, ROWS_SHOWN).map((row, i) => (
              <tr key={i} className={isHeading(i, mapping) ? "bg-verdigris-soft font-semibold" : undefined}>
                <td className="px-2 text-right text-ink-faint tabular-nums">{i + 1}</td>
                {row.map((cell, at) => (
                  <td key={at} className="max-w-64 truncate px-2 whitespace-nowrap">
                    {shownName(cell)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

const [ROWS_SHOWN, ROWS_OFFERED] = [12, 12];

function isHeading(index: number, { headingRow, headingRows }: Mapping): boolean {
  return index >= headingRow - 1 && index < headingRow - 1 + headingRows;
}

function headingChoices(count: number) {
  const rows = Array.from({ length: Math.min(count, ROWS_OFFERED) }, (_, i) => i + 1);
  return [
    ...rows.map((row) => ({ value: `${row} 1`, words: `on row ${row}` })),
    ...rows.slice(0, -1).map((row) => ({ value: `${row} 2`, words: `on rows ${row} and ${row + 1}` })),
  ];
}
