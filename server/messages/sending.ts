import { createSocket } from "node:dgram";
import { appendFile } from "node:fs/promises";
import { hostname } from "node:os";
import { createTransport } from "nodemailer";
import { Webhook } from "standardwebhooks";
import { v7 as uuid } from "uuid";
import { rfc3339 } from "@/core/time/instant";
import { DAY } from "@/core/time/instant";
import type { Channels } from "./channels";
import { type Message, mailBodies, type Offers, subjectLine, type ToldAlert } from "./message";
import { signed } from "./signed";
import { syslogLine } from "./syslog";
import type { Platform } from "../platform/platform";

const TIMEOUT_MS = 10_000;
/** A mail is read late sometimes. */
const OFFER_HOLDS_S = 14 * DAY;

/** Sends a message by one channel. @throws {Error} saying why it could not go out */
export const SENDING = { mail: sendMail, webhook: sendWebhook, syslog: sendSyslog };

function offersFor(app: Platform, { id }: ToldAlert): Offers {
  const { url } = app.settings;
  const token = signed(app, "see-alert", String(id), app.clock.seconds() + OFFER_HOLDS_S);
  return { open: `${url}/alerts?alert=${id}`, seen: `${url}/seen/${token}` };
}

async function sendMail(app: Platform, { mail }: Channels, target: string, message: Message) {
  await mailBy(mail, {
    to: target,
    subject: subjectLine(message),
    ...mailBodies(message, (alert) => offersFor(app, alert)),
  });
}

/** Sends one mail by SMTP. @throws {Error} where no server is set, or it doesn't take the mail */
export async function mailBy(
  mail: Channels["mail"],
  content: { to: string; subject: string; text: string; html?: string },
) {
  if (!mail) throw new Error("No mail server is set.");
  const { host, port, secure, user, password, from } = mail;
  const transport = createTransport({
    host,
    port,
    secure,
    connectionTimeout: TIMEOUT_MS,
    greetingTimeout: TIMEOUT_MS,
    socketTimeout: TIMEOUT_MS,
    ...(user !== "" && { auth: { user, pass: password } }),
  });
  await transport.sendMail({ from: `Tight Latch <${from}>`, ...content });
}

/** By the Standard Webhooks scheme: an id, a time and a signature over both and the body. */
async function sendWebhook(app: Platform, { webhook }: Channels, _target: string, message: Message) {
  if (!webhook) throw new Error("No webhook is set.");
  const { id, body, headers } = signedBody(app, webhook.secret, message);
  const response = await fetch(webhook.url, {
    method: "POST",
    body,
    headers: { "content-type": "application/json", ...headers },
    redirect: "manual",
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  if (!response.ok) throw new Error(`The webhook answered ${response.status} to ${id}.`);
}

function signedBody(app: Platform, secret: string, { alerts, isDigest }: Message) {
  const id = `msg_${uuid()}`;
  const at = new Date(app.clock.seconds() * 1000);
  const data = { digest: isDigest, alerts: alerts.map((alert) => ({ ...alert, at: rfc3339(alert.at) })) };
  const body = JSON.stringify({ type: "alert.raised", timestamp: app.clock.text(), data });
  const headers = {
    "webhook-id": id,
    "webhook-timestamp": String(app.clock.seconds()),
    "webhook-signature": new Webhook(secret).sign(id, at, body),
  };
  return { id, body, headers };
}

async function sendSyslog(_app: Platform, { syslog }: Channels, _target: string, { alerts }: Message) {
  if (!syslog) throw new Error("No log is set.");
  const lines = alerts.map(({ id, watch, severity, words, at, count }) =>
    syslogLine({
      at: rfc3339(at),
      host: hostname(),
      process: process.pid,
      severity,
      id: "alert",
      data: { alert: String(id), watch, count: String(count) },
      words,
    }),
  );
  if (syslog.to === "file") await appendFile(syslog.path, lines.map((line) => `${line}\n`).join(""), { mode: 0o600 });
  else for (const line of lines) await sendUdp(syslog.port, line);
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
