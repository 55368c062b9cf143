import { subscribe, unsubscribe } from "node:diagnostics_channel";
import { randomBytes } from "node:crypto";
import type { IncomingMessage } from "node:http";
import ipaddr from "ipaddr.js";

type Range = [ipaddr.IPv4 | ipaddr.IPv6, number];

/** The header in which we tell the sign-in package from where a request comes: it believes no other. */
export const SENDER = "x-latch-sender";

const REQUESTS = "http.server.request.start";
const UNKNOWN = "unknown";
/** So much of an IPv6 address is one household's or one house's: the rest they choose themselves. */
const NETWORK_PARTS = 4;

/** From where requests come. What `X-Forwarded-For` says counts where a proxy has written it that the settings name. */
export class Peers {
  /** Under a name that nobody outside can know each request carries who is at the other end of its connection. */
  private readonly header = `x-peer-${randomBytes(8).toString("hex")}`;
  private readonly proxies: Range[];
  private hasWarned = false;

  /** @param proxies addresses and ranges, as `isRange` takes them */
  constructor(proxies: readonly string[]) {
    this.proxies = proxies.map(rangeOf);
  }

  /** Begins to note peers of the HTTP servers of this process. @returns what ends it */
  listen(): () => void {
    const note = (message: unknown) => {
      const { request } = message as { request: IncomingMessage };
      request.headers[this.header] = request.socket.remoteAddress ?? UNKNOWN;
    };
    subscribe(REQUESTS, note);
    return () => unsubscribe(REQUESTS, note);
  }

  /** The address of whoever sent a request, as far as those tell it who can be believed. */
  addressOf(headers: Headers): string {
    const peer = headers.get(this.header);
    if (peer === null || !ipaddr.isValid(peer)) return UNKNOWN;
    const told = (headers.get("x-forwarded-for") ?? "").split(",").map((one) => one.trim());
    const way = [...told.filter((one) => one !== ""), peer];
    this.warn(way);
    for (;;) {
      const last = way.pop()!;
      const before = way.at(-1);
      if (before === undefined || !ipaddr.isValid(before) || !this.isProxy(last))
        return ipaddr.process(last).toString();
    }
  }

  /** The network that counts as one: an IPv4 address, or the first half of an IPv6 address. */
  networkOf(headers: Headers): string {
    return networkOf(this.addressOf(headers));
  }

  private isProxy(address: string): boolean {
    const one = ipaddr.process(address);
    return this.proxies.some(([range, bits]) => range.kind() === one.kind() && one.match(range as ipaddr.IPv4, bits));
  }

  private warn(way: readonly string[]) {
    const [peer, told] = [way.at(-1)!, way.at(-2)];
    if (this.hasWarned || told === undefined || told === peer || this.isProxy(peer)) return;
    this.hasWarned = true;
    console.warn(`The proxy at ${peer} is not listed in LATCH_PROXIES: everyone behind it counts as one.`);
  }
}

/** @param address as `Peers` tells it */
export function networkOf(address: string): string {
  if (!ipaddr.isValid(address)) return UNKNOWN;
  const one = ipaddr.process(address);
  if (one.kind() === "ipv4") return one.toString();
  const parts = (one as ipaddr.IPv6).parts.slice(0, NETWORK_PARTS);
  return `${parts.map((part) => part.toString(16)).join(":")}::/64`;
}

/** Whether a text is an address, or a range such as 10.0.0.0/8. */
export function isRange(text: string): boolean {
  return ipaddr.isValid(text) || ipaddr.isValidCIDR(text);
}

function rangeOf(text: string): Range {
  if (text.includes("/")) return ipaddr.parseCIDR(text);
  const address = ipaddr.process(text);
  return [address, address.kind() === "ipv4" ? 32 : 128];
}
