import type { RowOutcome } from "@/core/sheets";
import type { SheetPage } from "@/services";
import { Mark, Table } from "@/ui";

type Row = SheetPage["rows"][number];
/** So many changed columns of one row are told. */
const TOLD = 6;

function told(r: Row): string {
  const what = r.what ?? [];
  const some = what.slice(0, TOLD).map((w) => {
    if (r.outcome === "added") return `${w.column}: ${w.after}`;
    return `${w.column}: ${w.before || "empty"} → ${w.after || "empty"}`;
  });
  return [...some, ...(what.length > TOLD ? [`and ${what.length - TOLD} more`] : [])].join("; ");
}

/** What each row comes to, with what changes or why it does not. */
export function RowsTold({ rows, name }: { rows: Row[]; name: Record<RowOutcome, string> }) {
  return (
    <Table aria-label="Rows" head={[{ id: "line", name: "Line", figures: true }, "Record", "Comes to"]}>
      {rows.map((r) => {
        const what = r.why ?? told(r);
        return (
          <tr key={r.line}>
            <td className="text-right text-faint tabular-nums">{r.line}</td>
            <td className="w-full py-1.5 whitespace-normal">
              <span className="block break-words">{r.title}</span>
              {what && <span className="block text-sm break-words text-soft">{what}</span>}
            </td>
            <td>
              {r.outcome && (
                <Mark tone={r.outcome === "refused" ? "refuse" : "quiet"}>
                  {name[r.outcome].toLowerCase()}
                </Mark>
              )}
            </td>
          </tr>
        );
      })}
    </Table>
  );
}
