import { prose, type ProseBlock } from "@/core/form";

/** A text with values put in, laid out: paragraphs, headings, lists, links. */
export function Prose({ text, values }: { text: string; values: readonly string[] }) {
  const groups: ProseBlock[][] = [];
  for (const b of prose(text)) {
    const last = groups.at(-1);
    if (b.as === "item" && last?.[0]?.as === "item") last.push(b);
    else groups.push([b]);
  }
  const parts = (b: ProseBlock) =>
    b.parts.map((p, i) => {
      if ("value" in p) return <span key={i}>{values[p.value] ?? ""}</span>;
      if (!("href" in p)) return <span key={i}>{p.text}</span>;
      return (
        <a key={i} className="link" href={p.href} target="_blank" rel="noopener noreferrer">
          {p.text}
        </a>
      );
    });
  return (
    <div className="mb-3 max-w-prose break-words">
      {groups.map((g, k) => {
        if (g[0]!.as === "item")
          return (
            <ul key={k} className="mb-2 list-disc pl-5">
              {g.map((b, i) => (
                <li key={i}>{parts(b)}</li>
              ))}
            </ul>
          );
        return g[0]!.as === "heading" ? (
          <p key={k} className="mb-1 font-serif font-semibold">
            {parts(g[0]!)}
          </p>
        ) : (
          <p key={k} className="mb-2 whitespace-pre-line">
            {parts(g[0]!)}
          </p>
        );
      })}
    </div>
  );
}
