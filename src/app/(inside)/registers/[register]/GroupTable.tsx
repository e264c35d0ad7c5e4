import Link from "next/link";
import type { Column } from "@/core/form";
import type { RegisterGroups } from "@/services";
import { moneyText, numberText, Table } from "@/ui";
import { cellText } from "../../../shell/cellText";
import { groupView } from "./groupView";

interface Props {
  register: string;
  by: Column;
  found: RegisterGroups;
  /** The columns that are shown: of those that are numbers, sums stand here. */
  columns: Column[];
  view: string;
}

/** Records counted by what stands in a column, with the sums of their numbers; each group leads to its records. */
export function GroupTable({ register, by, found, columns, view }: Props) {
  const summed = columns.filter((c) => c.id !== by.id && (c.kind === "number" || c.kind === "money"));
  const all = found.groups.reduce((n, g) => n + g.count, 0);
  return (
    <>
      <Table
        aria-label={`${found.shape.name} by ${by.name}`}
        head={[
          by.name,
          { id: "count", name: found.shape.name, figures: true },
          ...summed.map((c) => ({ id: c.id, name: `${c.name}, in sum`, figures: true })),
        ]}
      >
        {found.groups.map((g) => (
          <tr key={String(g.value)}>
            <td>
              <Link
                className="link"
                prefetch={false}
                href={`/registers/${register}?${groupView(view, by, g.value)}`}
              >
                {g.title ?? (cellText(by, g.value, found.people) || "nothing")}
              </Link>
            </td>
            <td className="text-right tabular-nums">{numberText(String(g.count))}</td>
            {summed.map((c) => {
              const sum = g.sums[c.id];
              return (
                <td key={c.id} className="text-right tabular-nums">
                  {sum && (c.kind === "money" ? moneyText(sum) : numberText(sum))}
                </td>
              );
            })}
          </tr>
        ))}
      </Table>
      <p className="mt-3 text-sm text-soft">
        {all.toLocaleString("en-IE")} in {found.groups.length}{" "}
        {found.groups.length === 1 ? "group" : "groups"}
        {found.more && "; there are more. Group by another column, or narrow the list down first"}
      </p>
    </>
  );
}
