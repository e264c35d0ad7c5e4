/**
 * The address a call comes from. Anybody may write an X-Forwarded-For of their own; only what our own proxies have put
 * behind it is true: with n of them before us, the n-th from the end.
 * @param remote of the connection itself
 * @param forwarded the header as it came in
 * @param proxies how many of our own stand before this process; 0 where it is reached directly
 */
export function clientAddress(
  remote: string | undefined,
  forwarded: string | readonly string[] | undefined,
  proxies: number,
): string {
  const direct = plain(remote ?? "");
  if (proxies <= 0) return direct;
  const hops = [forwarded ?? []]
    .flat()
    .flatMap((line) => line.split(","))
    .map((hop) => plain(hop.trim()))
    .filter((hop) => hop !== "");
  // Fewer than there should be: it came past one of them, and the connection is all that is known.
  return hops.at(-proxies) ?? direct;
}

/** One spelling for one address: IPv4 is not told from IPv4 inside IPv6, and a port is no part of it. */
function plain(address: string): string {
  const bare =
    /^\[([^\]]+)\](?::\d+)?$/.exec(address)?.[1] ?? address.replace(/^(\d+(?:\.\d+){3}):\d+$/, "$1");
  return bare.toLowerCase().replace(/^::ffff:(?=\d+\.)/, "");
}
