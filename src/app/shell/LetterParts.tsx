import { Fragment, type ReactNode } from "react";
import type { WrittenPart, WrittenRun } from "@/core/letter";

/** A letter as it was sent. */
export function LetterParts({ parts }: { parts: WrittenPart[] }) {
  return (
    <div className="mt-1 grid max-w-prose gap-2.5 break-words">
      {parts.map((p, i) => (
        <Fragment key={i}>{partShown(p)}</Fragment>
      ))}
    </div>
  );
}

function partShown(p: WrittenPart): ReactNode {
  switch (p.part) {
    case "paragraph":
      return p.runs.some((r) => r.text.trim()) ? (
        <p className="whitespace-pre-wrap">
          <Runs runs={p.runs} />
        </p>
      ) : null;
    case "heading":
      return (
        <p className="mt-1 font-serif text-lg font-semibold">
          <Runs runs={p.runs} />
        </p>
      );
    case "list": {
      const items = p.items.map((runs, i) => (
        <li key={i}>
          <Runs runs={runs} />
        </li>
      ));
      return p.numbered ? (
        <ol className="list-decimal pl-6">{items}</ol>
      ) : (
        <ul className="list-disc pl-6">{items}</ul>
      );
    }
    case "table": {
      const [head = [], ...body] = p.rows;
      return (
        <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Table of the letter">
          <table className="w-full border-collapse">
            <thead>
              <tr>
                {head.map((c, i) => (
                  <th key={i} className="border-b border-line-strong py-1 pr-3 text-left align-bottom">
                    <Runs runs={c} />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {body.map((row, i) => (
                <tr key={i}>
                  {row.map((c, j) => (
                    <td key={j} className="border-b border-line py-1 pr-3 align-top">
                      <Runs runs={c} />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      );
    }
  }
}

function Runs({ runs }: { runs: WrittenRun[] }) {
  return runs.map((r, i) => {
    const text = r.italic ? <i>{r.text}</i> : r.text;
    const shown = r.bold ? <b>{text}</b> : text;
    return r.link ? (
      <a key={i} className="link" href={r.link} rel="noreferrer noopener" target="_blank">
        {shown}
      </a>
    ) : (
      <Fragment key={i}>{shown}</Fragment>
    );
  });
}
