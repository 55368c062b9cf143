import { Peers } from "./peers";

test("who a request is from is told by its connection, and by a proxy that the settings name", () => {
  const of = (peers: Peers, peer: string, forwarded?: string) => {
    const headers = new Headers(forwarded === undefined ? {} : { "X-Forwarded-For": forwarded });
    // As the connection's other end is noted: under a name that nobody outside knows.
    headers.set((peers as unknown as { header: string }).header, peer);
    return [peers.addressOf(headers), peers.networkOf(headers)];
  };
  const warn = jest.spyOn(console, "warn").mockImplementation(() => undefined);
  const plain = new Peers([]);
  expect(of(plain, "203.0.113.9", "198.51.100.1")).toEqual(["203.0.113.9", "203.0.113.9"]);
  expect(warn).toHaveBeenCalledWith(
    expect.stringContaining("is not listed in LATCH_PROXIES: everyone behind it counts as one."),
  );
  const behind = new Peers(["127.0.0.1", "10.0.0.0/8", "::1"]);
  expect(of(behind, "::ffff:127.0.0.1", "198.51.100.1")[0]).toBe("198.51.100.1");
  expect(of(behind, "127.0.0.1", "203.0.113.77, 198.51.100.1, 10.1.2.3")[0]).toBe("198.51.100.1");
  expect(of(behind, "198.51.100.2", "203.0.113.77")[0]).toBe("198.51.100.2");
  expect(of(behind, "127.0.0.1", "nonsense")[0]).toBe("127.0.0.1");
  expect(of(behind, "127.0.0.1", "2001:db8:1:2:3:4:5:6")).toEqual(["2001:db8:1:2:3:4:5:6", "2001:db8:1:2::/64"]);
  warn.mockRestore();
});
