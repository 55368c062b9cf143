import type { Severity } from "@/core/rules/severity";

/** Facility 13, "log audit"; severities of RFC 5424, section 6.2.1. */
const FACILITY = 13;
const LEVELS: Record<Severity, number> = { low: 5, high: 4, urgent: 1 };
/** The number kept for examples and documentation (RFC 5612), since we have none of our own. */
const ENTERPRISE = 32473;

export interface SyslogEntry {
  at: string;
  host: string;
  process: number;
  severity: Severity;
  /** What kind of message it is. */
  id: string;
  data: Record<string, string>;
  words: string;
}

/** One message by RFC 5424; the words in UTF-8 with a mark before them, which section 6.4 asks for. */
export function syslogLine({ at, host, process, severity, id, data, words }: SyslogEntry): string {
  const pairs = Object.entries(data).map(([name, value]) => ` ${name}="${escaped(value)}"`);
  const head = `<${FACILITY * 8 + LEVELS[severity]}>1 ${at} ${header(host, 255)} tight-latch ${process} ${header(id, 32)}`;
  return `${head} [latch@${ENTERPRISE}${pairs.join("")}] \ufeff${oneLine(words)}`;
}

/** Printable ASCII without spaces, as the header's fields want it; nothing is a dash. */
function header(text: string, longest: number): string {
  return text.replace(/[^\x21-\x7e]/g, "").slice(0, longest) || "-";
}

/** Section 6.3.3: a backslash goes before a quote, a backslash and a closing bracket. */
function escaped(value: string): string {
  return oneLine(value).replace(/["\\\]]/g, "\\$&");
}

/** A name with a line end in it must not begin another message. */
function oneLine(text: string): string {
  return text.replace(/[\x00-\x1f\x7f]+/g, " ");
}
