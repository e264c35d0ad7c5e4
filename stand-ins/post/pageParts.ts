export const escape = (s: string): string => s.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const FORMAT = new Intl.DateTimeFormat("en-IE", {
  dateStyle: "medium",
  timeStyle: "short",
  timeZone: "Europe/Dublin",
});
export const when = (d: Date | undefined): string => (d ? FORMAT.format(d) : "no date");

/** A page of somebody's in a frame that runs nothing and fetches nothing. */
export const framed = (html: string): string =>
  `<iframe sandbox="" title="The mail" srcdoc="${escape(`<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">${html}`)}"></iframe>`;

const STYLE = `
:root { color-scheme: light dark; --ink: #2b2420; --soft: #6a5f57; --line: #cfc6ba; --ground: #f5f0e8; --slate: #3d4f5c; --mark: #e4e8ea }
@media (prefers-color-scheme: dark) { :root { --ink: #ece6dc; --soft: #b3a99e; --line: #4b4743; --ground: #23282b; --slate: #a9c0ce; --mark: #313a40 } }
* { box-sizing: border-box }
body { margin: 0; font: 15px/1.5 "Atkinson Hyperlegible Next", system-ui, sans-serif; color: var(--ink); background: var(--ground) }
header { padding: 10px 20px; border-bottom: 1px solid var(--line); display: flex; gap: 24px; align-items: baseline }
header strong, h1, h2 { font-family: Alegreya, Georgia, serif; color: var(--slate); font-weight: 600 }
header strong { font-size: 20px } h1 { font-size: 24px; margin: 0 0 12px } h2 { font-size: 18px }
.two { display: grid; grid-template-columns: 330px minmax(0, 1fr) }
nav { border-right: 1px solid var(--line); padding: 12px 0; min-height: calc(100vh - 52px) }
nav a { display: block; padding: 5px 20px; overflow-wrap: anywhere; text-decoration: none; font-size: 14px }
nav a[aria-current] { background: var(--mark); font-weight: 600 }
nav h2 { margin: 12px 20px 4px; font-size: 15px }
main { padding: 20px 28px; max-width: 900px }
a { color: var(--slate) } .soft { color: var(--soft) }
table { border-collapse: collapse; width: 100% } td { border-bottom: 1px solid var(--line); padding: 7px 10px 7px 0; vertical-align: top } tr.new td { font-weight: 600 }
td:last-child { white-space: nowrap }
dl { display: grid; grid-template-columns: 70px 1fr; gap: 2px 12px; margin: 0 0 12px } dt { color: var(--soft) } dd { margin: 0; overflow-wrap: anywhere }
pre { font: inherit; white-space: pre-wrap; overflow-wrap: anywhere } iframe { width: 100%; height: 60vh; border: 1px solid var(--line); background: #fff }
label { display: block; margin: 0 0 10px } label.line { display: flex; gap: 8px; align-items: center }
input:not([type=checkbox]), textarea, select { display: block; width: 100%; font: inherit; padding: 6px 8px; color: inherit; background: transparent; border: 1px solid var(--soft); border-radius: 3px }
select option { color: #222 } button { font: inherit; padding: 7px 18px; border: 1px solid var(--slate); background: var(--slate); color: var(--ground); border-radius: 3px }
a.deed { margin-right: 14px }
@media (max-width: 700px) { .two { grid-template-columns: 1fr } nav { border-right: 0; min-height: 0; max-height: 180px; overflow: auto; border-bottom: 1px solid var(--line) } main { padding: 14px 16px } }
`;

const listed = (of: readonly string[], here: string | null): string =>
  of
    .map(
      (a) =>
        `<a href="/box/${encodeURIComponent(a)}"${a === here ? ' aria-current="page"' : ""}>${escape(a)}</a>`,
    )
    .join("");

/** A whole page: mailboxes at the left, and what was asked for. */
export function page(title: string, addresses: readonly string[], here: string | null, body: string): string {
  const ours = addresses.filter((a) => a.endsWith("quillhaven.example"));
  const others = addresses.filter((a) => !ours.includes(a));
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)} · Post</title><style>${STYLE}</style></head>
<body><header><strong>Post</strong><a href="/">Mailboxes</a><a href="/write">Write a mail</a><a href="/faults">What goes wrong</a></header>
<div class="two"><nav aria-label="Mailboxes">${ours.length > 0 ? `<h2>Quillhaven</h2>${listed(ours, here)}` : ""}${others.length > 0 ? `<h2>Elsewhere</h2>${listed(others, here)}` : ""}</nav>
<main><h1>${escape(title)}</h1>${body}</main></div></body></html>`;
}
