import type { TrailLine } from "@/core/words";
import type { RequestView } from "@/services";
import { classes, whenText } from "@/ui";

const TONE: Record<TrailLine["tone"], string> = {
  plain: "",
  agree: "text-moss",
  refuse: "text-brick",
  stuck: "text-brick",
  quiet: "text-soft",
};

const MEANS: Record<NonNullable<RequestView["trail"][number]["means"]>, string> = {
  link: ", by a link in a mail",
  reply: ", by a reply to a mail",
  chat: ", in chat",
};

/** Everything that happened, newest first: who, when, and why where a condition decided. */
export function Trail({ lines, zone }: { lines: RequestView["trail"]; zone: string }) {
  return (
    <ol>
      {[...lines].reverse().map((l) => (
        <li key={l.seq} className="border-t border-line py-1.5 [overflow-wrap:anywhere]">
          <span className={classes(TONE[l.tone])}>
            {l.byName && <span className="font-medium">{l.byName} </span>}
            {l.by ? l.text : l.text.charAt(0).toUpperCase() + l.text.slice(1)}
          </span>
          {l.note && (
            <span className="block border-l-2 border-line-strong pl-2 whitespace-pre-wrap">{l.note}</span>
          )}
          {l.changes.length > 0 && (
            <ul className="border-l-2 border-line pl-2 text-sm">
              {l.changes.map((x, i) => (
                <li key={i}>{changeWords(x)}</li>
              ))}
              {l.more > 0 && <li className="text-soft">and {l.more} more</li>}
            </ul>
          )}
          {l.why.length > 0 && (
            <details className="text-sm">
              <summary className="text-soft">
                {l.why.some((c) => c.result) ? "why?" : "what was asked"}
              </summary>
              {l.why.map((c, i) => (
                <span key={i} className="block pl-3 font-mono text-[0.8rem]">
                  {c.text} <span className="text-soft">{clauseCame(c)}</span>
                </span>
              ))}
            </details>
          )}
          <span className="block text-sm text-faint">
            {l.round && <span className="text-soft">{l.round} · </span>}
            {whenText(l.at, zone)}
            {l.key && `, by a program with the key “${l.key}”`}
            {l.means && MEANS[l.means]}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** A clause with its values and what it came to; of what was asked of many records with its values alone. */
function clauseCame(c: { text: string; values: string; result: string }): string {
  if (c.result) return `(${c.values} → ${c.result})`;
  return c.values === c.text ? "" : `(${c.values})`;
}

type Change = RequestView["trail"][number]["changes"][number];

/** "Guests: 12 → 20", with what is empty said. */
function changeWords({ name, from, to, row }: Change) {
  if (row) return `${name}: ${row === "added" ? "added" : "taken away"}`;
  return (
    <>
      {name}: <span className="text-soft line-through decoration-faint">{from || "empty"}</span>{" "}
      <span aria-hidden>→</span>
      <span className="sr-only">, now</span> {to || "empty"}
    </>
  );
}
