import { randomBytes } from "node:crypto";

/** Only what can be checked without a time-stamping authority's certificate is checked here. */
const TIMEOUT_MS = 10_000;
/** PKIStatus: granted, and granted with changes (RFC 3161, section 2.4.2). */
const GRANTED = [0, 1];
const MOST_BYTES = 64 * 1024;

/**
 * A request for a time stamp over a SHA-256 hash (RFC 3161, section 2.4.1), which asks for the certificate as well.
 * @param nonce 8 bytes, the first of them from 1 to 127
 */
export function stampRequest(hash: Uint8Array, nonce: Uint8Array): Buffer {
  const sha256 = "0201013031300d060960864801650304020105000420";
  const body = Buffer.concat([
    Buffer.from(sha256, "hex"),
    hash,
    Buffer.from([0x02, nonce.length]),
    nonce,
    Buffer.from("0101ff", "hex"),
  ]);
  return Buffer.concat([Buffer.from([0x30, body.length]), body]);
}

/** Has an authority stamp a hash. @returns its answer in DER @throws {Error} that says why there is none */
export async function stamped(url: string, hash: Uint8Array): Promise<Buffer> {
  const nonce = randomBytes(8);
  nonce[0] = (nonce[0] % 127) + 1;
  const response = await fetch(url, {
    method: "POST",
    headers: { "content-type": "application/timestamp-query" },
    body: new Uint8Array(stampRequest(hash, nonce)),
    redirect: "manual",
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  if (!response.ok) throw new Error(`The time-stamping authority answered ${response.status}.`);
  const answer = Buffer.from(await response.arrayBuffer());
  if (answer.length > MOST_BYTES) throw new Error("The time-stamping authority answered with more than a stamp.");
  const status = statusOf(answer);
  if (status === null) throw new Error("What the time-stamping authority answered is no answer to a request.");
  if (!GRANTED.includes(status)) throw new Error(`The time-stamping authority refused to stamp (status ${status}).`);
  if (!answer.includes(Buffer.from(hash)) || !answer.includes(nonce))
    throw new Error("The time-stamping authority stamped something other than what it was asked to.");
  return answer;
}

/** TimeStampResp is a sequence that begins with a sequence that begins with the status, an integer of one byte. */
function statusOf(answer: Buffer): number | null {
  const whole = contentOf(answer, 0x30);
  const info = whole && contentOf(whole, 0x30);
  const status = info && contentOf(info, 0x02);
  return status?.length === 1 ? status[0] : null;
}

/** The content of the first DER element if it has that tag and is complete. */
function contentOf(der: Buffer, tag: number): Buffer | null {
  if (der.length < 2 || der[0] !== tag) return null;
  const isLong = der[1] >= 0x80;
  const lengthBytes = isLong ? der[1] & 0x7f : 0;
  if (lengthBytes > 3 || der.length < 2 + lengthBytes) return null;
  const length = isLong ? der.readUIntBE(2, lengthBytes || 1) : der[1];
  const content = der.subarray(2 + lengthBytes, 2 + lengthBytes + length);
  return content.length === length ? content : null;
}
