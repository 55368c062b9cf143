import { BlockList, isIP } from "node:net";

const LOOPBACK = new BlockList();
LOOPBACK.addSubnet("127.0.0.0", 8, "ipv4");
LOOPBACK.addAddress("::1", "ipv6");

/** Whether a host is this machine itself, so that nothing goes over a network. */
export function isLoopback(host: string): boolean {
  const bare = host.replace(/^\[(.*)\]$/, "$1").toLowerCase();
  const version = isIP(bare);
  return version === 0 ? bare === "localhost" : LOOPBACK.check(bare, version === 4 ? "ipv4" : "ipv6");
}
