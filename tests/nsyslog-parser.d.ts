declare module "nsyslog-parser" {
  /** The parts of a line that the tests look at. */
  interface Parsed {
    type: string;
    prival: number;
    ts: string;
    host: string;
    appName: string;
    pid: string;
    messageid: string;
    message: string;
    structuredData: Record<string, string>[];
  }
  export default function parse(line: string): Parsed;
}
