export const escape = (s: string): string => s.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const FORMAT = new Intl.DateTimeFormat("en-IE", {
  dateStyle: "medium",
  timeStyle: "short",
  timeZone: "Europe/Dublin",
});
export const when = (d: Date | undefined): string => (d ? FORMAT.format(d) : "no date");

/** Kept out of what a page may do: it runs nothing, and fetches nothing from elsewhere. */
export const PAGE_HEADERS = {
  "content-type": "text/html; charset=utf-8",
  "content-security-policy":
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; form-action 'self'; frame-src 'self'",
};

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
dl { display: grid; grid-template-columns: minmax(70px, max-content) 1fr; gap: 2px 12px; margin: 0 0 12px } dt { color: var(--soft) } dd { margin: 0; overflow-wrap: anywhere }
pre { font: inherit; white-space: pre-wrap; overflow-wrap: anywhere } iframe { width: 100%; height: 60vh; border: 1px solid var(--line); background: #fff }
label { display: block; margin: 0 0 10px } label.line { display: flex; gap: 8px; align-items: center }
input:not([type=checkbox]), textarea, select { display: block; width: 100%; font: inherit; padding: 6px 8px; color: inherit; background: transparent; border: 1px solid var(--soft); border-radius: 3px }
select option { color: #222 } button { font: inherit; padding: 7px 18px; border: 1px solid var(--slate); background: var(--slate); color: var(--ground); border-radius: 3px }
a.deed { margin-right: 14px }
article { border-top: 1px solid var(--line); padding: 6px 0 10px } article h2 { margin: 0 0 4px } article p { margin: 4px 0 } summary { padding: 4px 0; cursor: pointer } details form { margin: 4px 0 10px 18px }
.said { border-left: 3px solid var(--slate); padding: 4px 10px; background: var(--mark) } .over { padding-left: 10px; border-left: 3px solid var(--slate) }
header { flex-wrap: wrap; row-gap: 4px }
@media (max-width: 700px) { .two { grid-template-columns: 1fr } nav { border-right: 0; min-height: 0; max-height: 180px; overflow: auto; border-bottom: 1px solid var(--line) } main { padding: 14px 16px } }
`;

interface Look {
  /** Of the stand-in. */
  name: string;
  title: string;
  /** Places beside its name: address and words. */
  links: readonly (readonly [string, string])[];
  /** What there is to pick from, by headings; `here` is the one that is shown. */
  lists: readonly { label: string; of: readonly { href: string; text: string; here: boolean }[] }[];
  body: string;
}

/** A whole page of a stand-in: one list, and one column that is read. */
export function page({ name, title, links, lists, body }: Look): string {
  const list = ({ label, of }: Look["lists"][number]): string =>
    of.length === 0
      ? ""
      : `<h2>${escape(label)}</h2>${of
          .map((x) => `<a href="${x.href}"${x.here ? ' aria-current="page"' : ""}>${escape(x.text)}</a>`)
          .join("")}`;
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)} · ${escape(name)}</title><style>${STYLE}</style></head>
<body><header><strong>${escape(name)}</strong>${links.map(([href, words]) => `<a href="${href}">${escape(words)}</a>`).join("")}</header>
${lists.length === 0 ? "<div>" : `<div class="two"><nav aria-label="${escape(name)}">${lists.map(list).join("")}</nav>`}
<main><h1>${escape(title)}</h1>${body}</main></div></body></html>`;
}
