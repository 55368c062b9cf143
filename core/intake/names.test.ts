import db from "mime-db";
import { canRun, endingsOf, hasDoubleEnding, hasHidden, RUNNING_TYPES } from "./names";

describe("what runs", () => {
  test("each type is one that the registry of types knows by name and, where it has endings, by these", () => {
    // mime-db gathers IANA's register of media types and what two web servers know.
    const unknown = RUNNING_TYPES.filter((type) => !(type in db));
    // These two are what file-type calls executables that the registers have no name for.
    expect(unknown).toEqual(["application/x-elf", "application/x-mach-binary"]);
    for (const type of RUNNING_TYPES)
      for (const ending of (db as Record<string, { extensions?: readonly string[] }>)[type]?.extensions ?? [])
        expect([ending, canRun(`a.${ending}`, null)]).toEqual([ending, true]);
  });

  test("it is known by its ending or by the type that is told, whatever case, blanks or dots stand about them", () => {
    expect(
      ["a.EXE", "a.exe ", "a.exe.", "a. exe", "setup.msi", "a.ps1", "a.docm"].map((name) => canRun(name, null)),
    ).toEqual(Array(7).fill(true));
    expect(canRun("a", "application/vnd.microsoft.portable-executable; v=1")).toBe(true);
    expect(["a.pdf", "exe", "a.docx", "a.tar.gz", ""].map((name) => canRun(name, null))).toEqual(Array(5).fill(false));
  });

  test("a double ending is one that runs behind one that is known, and no other two", () => {
    expect(["invoice.pdf.exe", "score.mp4.js", "a.docx .scr", "a.b.pdf.com"].map(hasDoubleEnding)).toEqual(
      Array(4).fill(true),
    );
    expect(["a.exe", "backup.tar.gz", "v1.2.exe", "Plan 3.4.pdf", "a.exe.pdf"].map(hasDoubleEnding)).toEqual(
      Array(5).fill(false),
    );
  });

  test("endings are read from the last", () => expect(endingsOf("a.PDF.Exe. ")).toEqual(["exe", "pdf"]));
});

test("every character that steers direction is hidden, and so is what has no width", () => {
  // Unicode Standard Annex #9, table of directional formatting characters: embeddings, overrides, isolates, marks.
  const steering = [0x202a, 0x202b, 0x202c, 0x202d, 0x202e, 0x2066, 0x2067, 0x2068, 0x2069, 0x200e, 0x200f, 0x061c];
  // Unicode's Default_Ignorable_Code_Point (DerivedCoreProperties): zero-width space, word joiner, soft hyphen, BOM.
  const widthless = [0x200b, 0x2060, 0x00ad, 0xfeff];
  for (const code of [...steering, ...widthless])
    expect([code, hasHidden(`invoice${String.fromCodePoint(code)}fdp.exe`)]).toEqual([code, true]);
  expect(["Zoë’s plan.pdf", "楽譜.pdf", "تجربة.pdf", "tour 🎻.mp4"].map(hasHidden)).toEqual(Array(4).fill(false));
});
