const HERE = "http://here.invalid";

/**
 * A path of our own to go to after signing in, or the desk. It is read as a browser would read it: a browser drops tabs
 * and line ends, takes a backslash for a slash and works out dots, and what then begins with two slashes is another host.
 */
export function ownPath(from: string): string {
  let url: URL;
  try {
    url = new URL(from, HERE);
  } catch {
    return "/desk";
  }
  const { origin, username, password, pathname, search, hash } = url;
  const away = origin !== HERE || username !== "" || password !== "" || pathname.startsWith("//");
  return away || !from.startsWith("/") ? "/desk" : `${pathname}${search}${hash}`;
}
