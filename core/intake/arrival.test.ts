import { link, NOW, T } from "@/tests/records";
import { DAY, rfc3339 } from "../time/instant";
import { cameFrom, isClosedAt, marksOf } from "./arrival";
import { disagreement } from "./bytes";

const event = (detail: Record<string, unknown>, more = {}) => ({
  ...{ type: "event" as const, id: "e", at: NOW, actorId: null, verb: "sent-in", ...more },
  detail,
});
const base64 = (...bytes: (number | string)[]) =>
  Buffer.concat(
    bytes.map((one) => (typeof one === "string" ? Buffer.from(one, "latin1") : Buffer.from([one]))),
  ).toString("base64");
const window = link("l", "a", { role: "deposit", opensAt: rfc3339(T - DAY), expiresAt: rfc3339(T + DAY) });

/** First bytes as the formats' own documents have them. */
const MAGIC: [ending: string, bytes: string, mediaType: string][] = [
  ["pdf", "%PDF-1.7\n", "application/pdf"], // ISO 32000-2, 7.5.2
  ["png", "\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\0\x01\0\0\0\x01\x08\x06\0\0\0\0\0\0\0\0\0\0IDAT", "image/png"], // RFC 2083, 3.1
  ["gif", "GIF89a", "image/gif"], // GIF89a specification, 17
  ["zip", "PK\x03\x04", "application/zip"], // APPNOTE.TXT, 4.3.7
  ["gz", "\x1f\x8b\x08", "application/gzip"], // RFC 1952, 2.3.1
  ["exe", "MZ", "application/x-msdownload"], // from memory: the two letters of every such executable
];

test.each(MAGIC)("what begins as .%s agrees with that ending, and with no other", async (ending, bytes) => {
  expect(await disagreement(`a.${ending}`, Buffer.from(bytes, "latin1"))).toBeNull();
  for (const [other] of MAGIC)
    if (other !== ending)
      expect([other, await disagreement(`a.${other}`, Buffer.from(bytes, "latin1"))]).toEqual([
        other,
        expect.any(String),
      ]);
});

test("formats that are packed in others agree with them; what tells nothing isn’t accused", async () => {
  for (const name of ["a.docx", "a.odt", "a.epub", "a.jar"])
    expect([name, await disagreement(name, Buffer.from("PK\x03\x04", "latin1"))]).toEqual([name, null]);
  expect(await disagreement("a.txt", Buffer.from("Dear Ida"))).toBeNull();
  expect(await disagreement("a.unknown", Buffer.from("%PDF-1.7"))).toBeNull();
  expect(await disagreement("none", Buffer.from("%PDF-1.7"))).toBeNull();
});

test("marks, the gravest first", async () => {
  const bad = cameFrom(event({ name: "fee\u202e.pdf.exe", firstBytes: base64("MZ", 0x90) }));
  expect(await marksOf(bad, window, true)).toEqual(["double", "runs", "hidden", "again"]);
  const passedOff = cameFrom(event({ name: "score.pdf", firstBytes: base64("MZ", 0x90) }));
  expect(await marksOf(passedOff, window, false)).toEqual(["disagrees"]);
  expect(await marksOf(cameFrom(event({ name: "score.pdf", firstBytes: base64("%PDF-1.4") })), window, false)).toEqual(
    [],
  );
});

test("what came while its link was closed is marked: before its start, from its end on, once it is revoked", () => {
  const at = (days: number) => T + days * DAY;
  expect([-2, -1, 0, 1, 2].map((days) => isClosedAt(window, at(days)))).toEqual([true, false, false, true, true]);
  expect(isClosedAt({ ...window, revokedAt: NOW }, T)).toBe(true);
  expect(isClosedAt(link("l", "a", { role: "deposit" }), T)).toBe(false);
});

test("what a store tells in no good shape is left untold, and the rest is kept", () => {
  const came = cameFrom(
    event(
      { name: 7, size: -1, sha256: "short", firstBytes: "%%%", sender: "Odo" },
      { actorEmail: "odo@quay.example", ip: "203.0.113.9" },
    ),
  );
  expect(came).toEqual({
    ...{ at: T, name: null, size: null, sender: "Odo", address: "odo@quay.example", from: "203.0.113.9" },
    ...{ mediaType: null, sha256: null, firstBytes: null },
  });
});
