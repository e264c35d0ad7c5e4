"use client";
import { useMemo } from "react";
import { trace, type Env, type Node } from "@/core/expression";
import { classes } from "@/ui";

/** "Why?": every part of a formula with its values and what it came to, parts under what they make. */
export default function TraceView({ text, ast, env }: { text: string; ast: Node; env: Env }) {
  const lines = useMemo(() => trace(text, ast, env), [text, ast, env]);
  return (
    <table className="mt-2 w-full border-t border-line" aria-label="Why it comes to this">
      <tbody>
        {lines.map((l, i) => (
          <tr key={i} className={classes("align-top", l.passed && "text-faint")}>
            <td className="py-1 pr-3" style={{ paddingLeft: l.depth * 14 }}>
              <code className="font-mono text-[0.78rem] [overflow-wrap:anywhere]">{l.text}</code>
              {/* A name alone: its value is the result already. */}
              {l.values !== "" && l.values !== l.text && lines.length > 1 && (
                <code className="block font-mono text-[0.78rem] text-soft [overflow-wrap:anywhere]">
                  {l.values}
                </code>
              )}
            </td>
            <td
              className={classes(
                "max-w-48 py-1 text-right",
                l.yes === true && "text-moss",
                l.yes === false && "text-brick",
                l.passed && "!text-faint",
              )}
            >
              {l.result}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
