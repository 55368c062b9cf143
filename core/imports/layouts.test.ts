import { rfc3339 } from "../time/instant";
import { guessEncoding, guessSeparator, type Rows, rowsOf, Unreadable } from "./file";
import { columnsOf, guessHeadings } from "./headings";
import { fits, type Mapping } from "./mapping";
import { proposeMapping } from "./propose";
import { readReport } from "./reading";
import { kindOf, Report } from "./report";

/*
 * Reports as stores might write them, all made up. What each says was worked out by hand from its text; every mapping
 * is the one that is proposed, but for what a layout itself names.
 */

function fileOf(text: string, encoding: "utf-8" | "utf-16le" | "windows-1252"): Uint8Array {
  if (encoding === "utf-8") return Buffer.from(text, "utf-8");
  return encoding === "utf-16le" ? Buffer.from(`\ufeff${text}`, "utf16le") : Buffer.from(text, "latin1");
}

function mapped(bytes: Uint8Array, more: Partial<Mapping> = {}): { rows: Rows; mapping: Mapping } {
  const encoding = guessEncoding(bytes, true);
  const separator = guessSeparator(new TextDecoder(encoding).decode(bytes));
  const rows = [...rowsOf([bytes], { encoding, separator })].flat();
  const file = { encoding, separator, sheet: null, zone: "UTC" };
  return { rows, mapping: { ...proposeMapping(rows, guessHeadings(rows), file), ...more } };
}

function reported(bytes: Uint8Array, more: Partial<Mapping> = {}): Report {
  const { rows, mapping } = mapped(bytes, more);
  const report = readReport(rows, mapping);
  if (!(report instanceof Report)) throw new Error(report.question);
  return report;
}

const day = (at: number | null) => (at === null ? "" : ` ${rfc3339(at).replace("T23:59:59Z", " (end)")}`);

/** Each share on a line: item, audience, role, and what narrows it. */
function sharesIn(report: Report): string[] {
  return [...report.shares.values()]
    .map(({ item, audience, role, password, download, ends }) => {
      const to =
        "person" in audience
          ? audience.person
          : "group" in audience
            ? `group ${audience.group}`
            : "reach" in audience
              ? audience.reach
              : `link for ${audience.people.join(" ")}`;
      const narrow = `${password ? " password" : ""}${download ? "" : " blocked"}${day(ends)}`;
      return `${item.path ?? item.id}: ${to} ${role}${narrow}`;
    })
    .sort();
}

interface Layout {
  name: string;
  text: string;
  encoding?: "utf-8" | "utf-16le" | "windows-1252";
  more?: Partial<Mapping>;
  shares: string[];
  /** Rows that are left out, came from above, or are refused. */
  left?: number;
  inherited?: number;
  refused?: string[];
}

const LAYOUTS: Layout[] = [
  {
    name: "commas, UTF-8, a person a row, dates with the year first",
    text: [
      "Path,Shared with,Role,Expires",
      "/Season/Plan.pdf,ada@quay.example,Can view,2026-12-31",
      '"/Season/Cast, chorus.xlsx",odo@home.example,Can edit,',
      "/Season,bea@quay.example,View,2026-11-30T12:00:00+01:00",
    ].join("\r\n"),
    shares: [
      "/Season/Cast, chorus.xlsx: odo@home.example edit",
      "/Season/Plan.pdf: ada@quay.example view 2026-12-31 (end)",
      "/Season: bea@quay.example view 2026-11-30T11:00:00Z",
    ],
  },
  {
    name: "semicolons, Windows-1252, the day first",
    text: [
      "Location;User;Permission;End date",
      "/Tour/Zürich.docx;jörg@bücher.example;Read;03.04.2026",
      "/Tour/Zürich.docx;ada@quay.example;Write;31.12.2026",
    ].join("\r\n"),
    encoding: "windows-1252",
    shares: [
      "/Tour/Zürich.docx: ada@quay.example edit 2026-12-31 (end)",
      "/Tour/Zürich.docx: jörg@xn--bcher-kva.example view 2026-04-03 (end)",
    ],
  },
  {
    name: "tabs, UTF-16, the month first, times of twelve hours by the clocks of a zone",
    text: [
      "Full path\tEmail\tAccess level\tExpires on",
      "/Donors/List.xlsx\tada@quay.example\tReader\t11/30/2026 2:30 PM",
      "/Donors/List.xlsx\tbea@quay.example\tEditor\t3/4/2026 12:05 AM",
      "",
    ].join("\n"),
    encoding: "utf-16le",
    more: { zone: "Europe/Lisbon" },
    shares: [
      "/Donors/List.xlsx: ada@quay.example view 2026-11-30T14:30:00Z",
      "/Donors/List.xlsx: bea@quay.example edit 2026-03-04T00:05:00Z",
    ],
  },
  {
    name: "grouped rows: the item on the first of its rows only",
    text: [
      "Path,Type,Shared with,Role",
      "/Contracts,Folder,ada@quay.example,view",
      ",,odo@quay.example,edit",
      "/Contracts/Hale.pdf,File,,",
      ",,bea@quay.example,comment",
    ].join("\n"),
    shares: [
      "/Contracts/Hale.pdf: bea@quay.example comment",
      "/Contracts: ada@quay.example view",
      "/Contracts: odo@quay.example edit",
    ],
  },
  {
    name: "merged headings: two rows of them, the upper over several columns",
    text: [
      "Item,,Sharing,,",
      "Path,Kind,Shared with,Role,Ends",
      "/Stage/Plot.dwg,file,ada@quay.example,view,1 Dec 2026",
      "/Stage,folder,odo@quay.example,manage,never",
    ].join("\n"),
    shares: ["/Stage/Plot.dwg: ada@quay.example view 2026-12-01 (end)", "/Stage: odo@quay.example manage"],
  },
  {
    name: "a link a row, with all whom it is for in a cell",
    text: [
      "File name;In folder;Link type;Recipients;Access;Password protected;Prevent download;Valid until;Link",
      "Takes.zip;/Recordings;Open;;view;Yes;No;31/12/2026;https://files.home.example/s/1",
      "Mix.wav;/Recordings;Specific people link;ada@quay.example, Odo Hale <odo@quay.example>;view;No;Yes;;https://files.home.example/s/2",
      "Drop;/Recordings;Open;;Upload;No;No;;https://files.home.example/s/3",
      "Notes.docx;/Recordings;Internal;;edit;No;No;;https://files.home.example/s/4",
    ].join("\r\n"),
    shares: [
      "/Recordings/Drop: open deposit",
      "/Recordings/Mix.wav: link for ada@quay.example odo@quay.example view blocked",
      "/Recordings/Notes.docx: house edit",
      "/Recordings/Takes.zip: open view password 2026-12-31 (end)",
    ],
  },
  {
    name: "a person a row: rows of one link add up, and a person told twice has the most of it",
    text: [
      "Path,Link ID,Sharing type,Shared with,Role",
      "/Riders/Hale.pdf,L-1,named link,ada@quay.example,view",
      "/Riders/Hale.pdf,L-1,named link,odo@quay.example,view",
      "/Riders/Hale.pdf,P-1,person,bea@quay.example,view",
      "/Riders/Hale.pdf,P-2,person,gus@post.example,view",
      "/Riders/Hale.pdf,P-2,person,gus@post.example,edit",
    ].join("\n"),
    shares: [
      "/Riders/Hale.pdf: bea@quay.example view",
      "/Riders/Hale.pdf: gus@post.example edit",
      "/Riders/Hale.pdf: link for ada@quay.example odo@quay.example view",
    ],
  },
  {
    name: "inherited access, told on every item: what a folder above has is its share, and no other",
    text: [
      "Path,Shared with,Role,Inherited",
      "/Payroll/2026/May.xlsx,ada@quay.example,view,yes",
      "/Payroll,ada@quay.example,edit,no",
      "/Payroll/2026,ada@quay.example,edit,yes",
      "/Payroll/2026,odo@quay.example,view,yes",
    ].join("\n"),
    // Nothing above gives Odo anything: it can only be the folder's own.
    shares: ["/Payroll/2026: odo@quay.example view", "/Payroll: ada@quay.example edit"],
    inherited: 2,
  },
  {
    name: "a title above, and a total at the end",
    text: [
      "External sharing",
      "made on 30 November 2026",
      "",
      "Path;Shared with;Role",
      "/Press/Photo.jpg;ada@quay.example;view",
      "/Press/Photo.jpg;odo@quay.example;view",
      "Path;Shared with;Role",
      "/Press/Text.docx;ada@quay.example;edit",
      "Total: 3;;",
    ].join("\n"),
    shares: [
      "/Press/Photo.jpg: ada@quay.example view",
      "/Press/Photo.jpg: odo@quay.example view",
      "/Press/Text.docx: ada@quay.example edit",
    ],
    left: 2,
  },
  {
    name: "backslashes; groups, everybody and anybody in one column, and some shared with nobody",
    text: [
      "Where\tShared with\tRights",
      "S:\\Scores\\Hale\\Part 1.pdf\tMusicians\tread",
      "S:\\Scores\\Hale\tEveryone\tread",
      "S:\\Scores\\Poster.pdf\tAnyone who has the link\tread",
      "S:\\Scores\\Draft.pdf\tNobody\t",
    ].join("\r\n"),
    shares: [
      "/S:/Scores/Hale/Part 1.pdf: group Musicians view",
      "/S:/Scores/Hale: house view",
      "/S:/Scores/Poster.pdf: open view",
    ],
  },
  {
    name: "items by the store's own ids, two of them with one name",
    text: [
      "Item ID,Item name,Kind,Shared with,Role,Last opened",
      "17,Plan.pdf,File,ada@quay.example,view,2026-11-02",
      "18,Plan.pdf,File,odo@quay.example,view,never",
    ].join("\n"),
    shares: ["17: ada@quay.example view", "18: odo@quay.example view"],
  },
  {
    name: "words that somebody has mapped, and rows that can't be understood",
    text: [
      "Path,Shared with,Role,Expires",
      "/Loge/Liste.pdf,ada@quay.example,Kijken,2026-12-31",
      "/Loge/Liste.pdf,not an @ddress,Kijken,2026-12-31",
      "/Loge/Plan.pdf,odo@quay.example,Kijken,2026-02-30",
      ",odo@quay.example,Kijken,2026-02-28",
      "/Loge/Plan.pdf,odo@quay.example,Bewerken,2026-02-28",
      "/Loge/Plan.pdf,,Kijken,2026-02-28",
    ].join("\n"),
    more: { values: { role: { kijken: "view" } }, repeatsAbove: false },
    shares: ["/Loge/Liste.pdf: ada@quay.example view 2026-12-31 (end)"],
    refused: [
      "3: “not” isn’t an e-mail address",
      "4: “2026-02-30” in “Expires” isn’t a date with the day first",
      "5: it names no item: the cells for its place are empty",
      "6: nobody has said yet what “bewerken” in “Role” means",
      "7: it has a role, and nobody that it is shared with",
    ],
  },
];

test.each(LAYOUTS)("$name", ({ text, encoding = "utf-8", more, shares, left = 0, inherited = 0, refused = [] }) => {
  const report = reported(fileOf(text, encoding), more);
  expect(sharesIn(report)).toEqual(shares);
  expect(report.problems.map(({ line, message }) => `${line}: ${message}`)).toEqual(refused);
  expect([report.left, report.inherited, report.refused]).toEqual([left, inherited, refused.length]);
  expect(report.understood + report.left + report.refused).toBe(report.rows);
});

test("what isn’t told of an item follows from its place: folders above it, and what is in it", () => {
  const report = reported(fileOf("Path,Shared with,Role\n/A/B.d/C,ada@quay.example,view\n/A/x.pdf,,\n", "utf-8"));
  expect([...report.items.values()].map((one) => [one.id, kindOf(one), one.parent?.id ?? null]).sort()).toEqual([
    ["/A", "folder", null],
    ["/A/B.d", "folder", "/A"],
    ["/A/B.d/C", "folder", "/A/B.d"],
    ["/A/x.pdf", "file", "/A"],
  ]);
});

describe("dates that can be read in two ways are asked about, and never guessed", () => {
  const report = (...ends: string[]) =>
    ["Path,Shared with,Role,Expires", ...ends.map((end, i) => `/${i},ada@quay.example,view,${end}`)].join("\n");
  const read = (text: string, more?: Partial<Mapping>) => {
    const { rows, mapping } = mapped(fileOf(text, "utf-8"), more);
    return readReport(rows, mapping);
  };

  test("where no row settles it", () => {
    expect(read(report("03/04/2026", "05/06/2026"))).toEqual({
      question:
        "Dates can be read in two ways: row 2 has 03/04/2026, and no date settles which number is the day. Choose how to read them.",
    });
  });
  test("where rows contradict each other", () => {
    expect(read(report("31/01/2026", "01/31/2026"))).toEqual({
      question:
        "Dates are written in two ways: row 2 has 31/01/2026, and row 3 has 01/31/2026. Choose how to read them; dates that don’t fit are refused.",
    });
    expect(read(report("31/01/2026", "01/31/2026"), { dateOrder: "day first" })).toMatchObject({ refused: 1 });
  });
  test("one row settles it for all; the same day of the same month needs no answer", () => {
    const settled = read(report("03/04/2026", "30/06/2026")) as Report;
    expect(sharesIn(settled)[0]).toBe("/0: ada@quay.example view 2026-04-03 (end)");
    expect(sharesIn(read(report("04/04/2026")) as Report)).toEqual(["/0: ada@quay.example view 2026-04-04 (end)"]);
  });
});

test("a day ends by the clocks of the zone, also where they are put back on it", () => {
  const text = "Path,Shared with,Role,Expires\n/a,ada@quay.example,view,2026-10-25\n";
  const ends = [...reported(fileOf(text, "utf-8"), { zone: "Europe/Lisbon" }).shares.values()][0].ends!;
  // Lisbon is at UTC+1 until 2026-10-25T01:00:00Z (tz database, EU rules), and at UTC afterwards.
  expect(rfc3339(ends)).toBe("2026-10-25T23:59:59Z");
});

test("a quote that isn’t closed, and bytes of another encoding, are said with their row", () => {
  const read = (text: string) => [...rowsOf([Buffer.from(text)], { encoding: "utf-8", separator: "," })].flat();
  expect(() => read('a,b\n1,"2\n3,4\n')).toThrow(/^Row 2 has a quotation mark that isn’t closed/);
  const latin = fileOf("Path\n/Zürich\n", "windows-1252");
  expect(() => [...rowsOf([latin], { encoding: "utf-8", separator: "," })]).toThrow(Unreadable);
});

test("headings that are doubled or empty have names of their own, and a mapping fits what has all its columns", () => {
  const rows = [
    ["Path", "Role", "", "Role"],
    ["/a", "view", "x", "edit"],
  ];
  const columns = columnsOf(rows, { headingRow: 1, headingRows: 1 });
  expect(columns).toEqual(["Path", "Role", "Column 3", "Role (2)"]);
  expect([fits({ columns: { path: "Path" } }, columns), fits({ columns: { path: "Place" } }, columns)]).toEqual([
    true,
    false,
  ]);
});
