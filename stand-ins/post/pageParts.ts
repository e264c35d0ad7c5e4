import { escape, page as look } from "../look";

/** A page of somebody's in a frame that runs nothing and fetches nothing. */
export const framed = (html: string): string =>
  `<iframe sandbox="" title="The mail" srcdoc="${escape(`<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">${html}`)}"></iframe>`;

/** A whole page: mailboxes at the left, and what was asked for. */
export function page(title: string, addresses: readonly string[], here: string | null, body: string): string {
  const listed = (of: readonly string[]) =>
    of.map((a) => ({ href: `/box/${encodeURIComponent(a)}`, text: a, here: a === here }));
  const ours = addresses.filter((a) => a.endsWith("quillhaven.example"));
  return look({
    name: "Post",
    title,
    links: [
      ["/", "Mailboxes"],
      ["/write", "Write a mail"],
      ["/faults", "What goes wrong"],
    ],
    lists: [
      { label: "Quillhaven", of: listed(ours) },
      { label: "Elsewhere", of: listed(addresses.filter((a) => !ours.includes(a))) },
    ],
    body,
  });
}
