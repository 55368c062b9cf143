import { rfc3339, type Seconds } from "@/core/time/instant";
import { begun } from "@/core/text/text";
import { countWords, dayWords } from "@/core/text/words";
import type { Severity } from "@/core/rules/severity";

/** An alert as a message tells of it. */
export interface ToldAlert {
  id: number;
  watch: string;
  severity: Severity;
  words: string;
  at: Seconds;
  count: number;
}

/** What goes out at once: one alert, or several in a digest. */
export interface Message {
  alerts: ToldAlert[];
  isDigest: boolean;
}

/** The addresses that a mail offers for an alert. */
export interface Offers {
  /** In the console, for whoever can sign in. */
  open: string;
  /** Marks it as seen, for whoever has the mail. */
  seen: string;
}

export function subjectLine({ alerts, isDigest }: Message): string {
  const [first] = alerts;
  return isDigest
    ? `${countWords(alerts.length, "more alert")}: ${first.watch}`
    : `${begun(first.severity)}: ${first.words}`;
}

/** The same content twice: as plain text, and as HTML. */
export function mailBodies(message: Message, offersFor: (alert: ToldAlert) => Offers): { text: string; html: string } {
  const parts = message.alerts.map((alert) => ({ ...offersFor(alert), lines: linesOf(alert) }));
  const head = message.isDigest
    ? `${countWords(message.alerts.length, "alert")} that had to wait, from the watch “${message.alerts[0].watch}”.`
    : `From the watch “${message.alerts[0].watch}”.`;
  const text = parts.map(({ lines, open, seen }) => `${lines.join("\n")}\nOpen it: ${open}\nMark it as seen: ${seen}`);
  const html = parts.map(
    ({ lines, open, seen }) =>
      `<p>${lines.map(escaped).join("<br>")}<br><a href="${escaped(open)}">Open it</a> · <a href="${escaped(seen)}">Mark it as seen</a></p>`,
  );
  return { text: [head, ...text].join("\n\n") + "\n", html: `<p>${escaped(head)}</p>\n${html.join("\n")}\n` };
}

function linesOf({ words, severity, at, count }: ToldAlert): string[] {
  return [
    `${words}.`,
    `${begun(severity)}; ${dayWords(at)}, ${rfc3339(at).slice(11, 16)} UTC; ${countWords(count, "event")} so far.`,
  ];
}

export function escaped(text: string): string {
  const names: Record<string, string> = { "&": "amp", "<": "lt", ">": "gt", '"': "quot" };
  return text.replace(/[&<>"]/g, (sign) => `&${names[sign]};`);
}
