import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { conditionOf, titleOfLink, type RecordSearch } from "./findRecords";
import { quoted, tableOf } from "./names";

/** The records that have the same in a column. */
export interface RecordGroup {
  /** As it is stored; null where nothing is there. */
  value: string | boolean | null;
  /** What a link points at, by name. */
  title: string | null;
  count: number;
  /** By column of numbers, their sum as decimal text; null where none is there. */
  sums: Readonly<Record<string, string | null>>;
}

const isSummed = (c: RegisterShape["columns"][number]): boolean => COLUMNS[c.kind].type === "numeric";

/** Records that match, counted and summed by what stands in a column; those with the most first. */
export async function groupRecords(
  db: Db,
  shape: RegisterShape,
  registers: Readonly<Record<string, RegisterShape>>,
  q: Pick<RecordSearch, "search" | "filters" | "where">,
  by: string,
  whole: RegisterShape,
  most: number,
): Promise<RecordGroup[]> {
  const c = shape.columns.find((x) => x.id === by)!;
  const values: unknown[] = [];
  const condition = conditionOf(shape, q, whole, (v) => `$${values.push(v)}`);
  const name = `t.${quoted(by)}`;
  const title = titleOfLink(c, registers);
  const sums = shape.columns.filter((x) => x.id !== by && isSummed(x));
  const { rows } = await db.query(
    `
      select
        ${COLUMNS[c.kind].read(name)} as "#value",
        ${title ?? "null"} as "#title",
        count(*)::int as "#count"
        ${sums.map((x) => `, sum(t.${quoted(x.id)})::text as ${quoted(x.id)}`).join("")}
      from ${tableOf(shape.key)} t ${condition}
      group by ${name}
      order by count(*) desc, ${name} nulls last
      limit ${most}
    `,
    values,
  );
  return rows.map(({ "#value": value, "#title": named, "#count": count, ...rest }) => ({
    value: value === "" ? null : value,
    title: named,
    count,
    sums: rest,
  }));
}
