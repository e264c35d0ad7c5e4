import { clientAddress } from "./clientAddress";

it.each<[string | undefined, string | string[] | undefined, number, string]>([
  // Reached directly: whatever is claimed counts for nothing.
  ["10.0.0.9", "1.2.3.4", 0, "10.0.0.9"],
  ["::ffff:10.0.0.9", undefined, 0, "10.0.0.9"],
  ["::1", "1.2.3.4, 5.6.7.8", 0, "::1"],
  // One proxy writes the last entry; those before it came from outside.
  ["10.0.0.1", "1.2.3.4", 1, "1.2.3.4"],
  ["10.0.0.1", "9.9.9.9, 1.2.3.4", 1, "1.2.3.4"],
  ["10.0.0.1", ["9.9.9.9", "8.8.8.8, 1.2.3.4"], 1, "1.2.3.4"],
  ["10.0.0.1", "9.9.9.9, 1.2.3.4, 10.0.0.2", 2, "1.2.3.4"],
  ["10.0.0.1", " [2001:DB8::1]:4711 ", 1, "2001:db8::1"],
  ["10.0.0.1", "1.2.3.4:5678", 1, "1.2.3.4"],
  // Past the proxy.
  ["10.0.0.1", undefined, 1, "10.0.0.1"],
  ["10.0.0.1", "1.2.3.4", 2, "10.0.0.1"],
  ["10.0.0.1", " , ,", 1, "10.0.0.1"],
  [undefined, undefined, 0, ""],
])("%j, %j behind %j proxies is %s", (remote, forwarded, proxies, wanted) =>
  expect(clientAddress(remote, forwarded, proxies)).toBe(wanted),
);
