import { createSocket } from "node:dgram";
import { constants } from "node:fs";
import { mkdir, open } from "node:fs/promises";
import { hostname } from "node:os";
import { join } from "node:path";
import { createTransport } from "nodemailer";
import addressparser from "nodemailer/lib/addressparser";
import { Webhook } from "standardwebhooks";
import { v7 as uuid } from "uuid";
import { rfc3339 } from "@/core/time/instant";
import { DAY } from "@/core/time/instant";
import type { Channels } from "./channels";
import { type Message, mailBodies, type Offers, subjectLine, type ToldAlert } from "./message";
import { signed } from "../platform/signed";
import { type SyslogEntry, syslogLine } from "./syslog";
import { isLoopback } from "../platform/loopback";
import type { Platform } from "../platform/platform";

const TIMEOUT_MS = 10_000;
/** A mail is read late sometimes. */
const OFFER_HOLDS_S = 14 * DAY;

/** Sends a message by one channel. @throws {Error} saying why it could not go out */
export const SENDING = { mail: sendMail, webhook: sendWebhook, syslog: sendSyslog };

function offersFor(app: Platform, { id }: ToldAlert): Offers {
  const { url } = app.settings;
  const token = signed(app, "see-alert", String(id), app.clock.seconds() + OFFER_HOLDS_S);
  return { open: `${url}/alerts?alert=${id}`, seen: `${url}/seen#${token}` };
}

async function sendMail(app: Platform, { mail }: Channels, target: string, message: Message) {
  await mailBy(mail, {
    to: target,
    subject: subjectLine(message),
    ...mailBodies(message, (alert) => offersFor(app, alert)),
  });
}

/** A file that goes with a mail. */
interface Attachment {
  filename: string;
  content: string | Buffer;
  contentType: string;
}

interface MailContent {
  to: string;
  subject: string;
  text: string;
  html?: string;
  attachments?: Attachment[];
}

export type SendMail = (content: MailContent) => Promise<void>;
type MailServer = Channels["mail"];

/** Sends one mail by SMTP; off this machine by TLS alone. @throws {Error} in a fixed sentence, where it does not go out */
export function mailBy(mail: MailServer, content: MailContent): Promise<void> {
  return mailing(mail, (send) => send(content));
}

/**
 * Lets several mails be sent, one after the other, over one connection to the server: to open one takes most of the
 * time that a mail takes.
 * @param work is given what sends a mail, which fails as `mailBy` does
 */
export async function mailing<T>(mail: MailServer, work: (send: SendMail) => Promise<T>): Promise<T> {
  const transport = mail && createTransport({ ...serverOf(mail), pool: true, maxConnections: 1 });
  try {
    return await work(async (content) => {
      if (!mail || !transport) throw new Error("No mail server is set.");
      checkAddress(content.to);
      const envelope = { from: mail.from, to: [content.to] };
      const from = { name: "Tight Latch", address: mail.from };
      await transport.sendMail({ from, ...content, envelope }).catch((error: { code?: string }) => {
        throw new Error(MAIL_TROUBLE[error.code ?? ""] ?? "The mail server didn’t accept the mail.");
      });
    });
  } finally {
    transport?.close();
  }
}

/** What a mail library would read as another address, or as several, is not written to at all. */
function checkAddress(to: string) {
  const [read, ...more] = addressparser(to, { flatten: true });
  if (more.length > 0 || read?.address !== to) throw new Error("Mail can’t be sent to that address.");
}

/** How a mail server is spoken to: where there is a network between, by TLS alone. */
export function serverOf({ host, port, secure, user, password }: NonNullable<Channels["mail"]>) {
  return {
    host,
    port,
    secure,
    requireTLS: !secure && !isLoopback(host),
    connectionTimeout: TIMEOUT_MS,
    greetingTimeout: TIMEOUT_MS,
    socketTimeout: TIMEOUT_MS,
    ...(user !== "" && { auth: { user, pass: password } }),
  };
}

/** In words of our own, by nodemailer's codes: what the other side sends may hold anything, our password too. */
const MAIL_TROUBLE: Record<string, string> = {
  ECONNECTION: "The mail server can't be reached.",
  ESOCKET: "The mail server can't be reached.",
  EDNS: "There is no mail server of that name.",
  ETIMEDOUT: "The mail server doesn’t answer.",
  ETLS: "The mail server doesn’t offer trusted TLS.",
  EAUTH: "The mail server rejected the user or password.",
  EENVELOPE: "The mail server rejected the sender or the recipient.",
};

async function sendWebhook(app: Platform, { webhook }: Channels, _target: string, { alerts, isDigest }: Message) {
  const data = { digest: isDigest, alerts: alerts.map((alert) => ({ ...alert, at: rfc3339(alert.at) })) };
  await postWebhook(app, webhook, "alert.raised", data);
}

/** By the Standard Webhooks scheme: an id, a time and a signature over both and the body. @throws {Error} saying why it did not go out */
export async function postWebhook(app: Platform, webhook: Channels["webhook"], type: string, data: object) {
  if (!webhook) throw new Error("No webhook is set.");
  const id = `msg_${uuid()}`;
  const at = new Date(app.clock.seconds() * 1000);
  const body = JSON.stringify({ type, timestamp: app.clock.text(), data });
  const headers = {
    "webhook-id": id,
    "webhook-timestamp": String(app.clock.seconds()),
    "webhook-signature": new Webhook(webhook.secret).sign(id, at, body),
  };
  const response = await fetch(webhook.url, {
    method: "POST",
    body,
    headers: { "content-type": "application/json", ...headers },
    redirect: "manual",
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  if (!response.ok) throw new Error(`The webhook answered ${response.status} to ${id}.`);
}

async function sendSyslog(app: Platform, { syslog }: Channels, _target: string, { alerts }: Message) {
  const entries = alerts.map(({ id, watch, severity, words, at, count }) => ({
    ...{ at: rfc3339(at), severity, id: "alert", words },
    data: { alert: String(id), watch, count: String(count) },
  }));
  await writeLog(app, syslog, entries);
}

/** Writes to the log, wherever it is. @throws {Error} saying why it did not go out */
export async function writeLog(
  { settings: { logs } }: Platform,
  syslog: Channels["syslog"],
  entries: readonly Omit<SyslogEntry, "host" | "process">[],
) {
  if (!syslog) throw new Error("No log is set.");
  const lines = entries.map((entry) => syslogLine({ ...entry, host: hostname(), process: process.pid }));
  if (syslog.to === "file") await appendTo(logs, syslog.name, lines.map((line) => `${line}\n`).join(""));
  else for (const line of lines) await sendUdp(syslog.port, line);
}

/** A link that stands under the name is not followed. */
async function appendTo(folder: string, name: string, text: string) {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const { O_APPEND, O_CREAT, O_WRONLY, O_NOFOLLOW } = constants;
  const file = await open(join(folder, name), O_APPEND | O_CREAT | O_WRONLY | O_NOFOLLOW, 0o600);
  await file.appendFile(text).finally(() => file.close());
}

/** To this machine alone: what goes over a network unprotected can be read there. */
function sendUdp(port: number, line: string): Promise<void> {
  const socket = createSocket("udp4");
  return new Promise((resolve, reject) =>
    socket.send(line, port, "127.0.0.1", (error) => {
      socket.close();
      if (error) reject(error);
      else resolve();
    }),
  );
}
