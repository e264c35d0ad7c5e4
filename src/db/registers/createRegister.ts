import type { Column, RegisterRights, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import type { Db } from "../pool";
import { indexesOf } from "./indexes";
import { quoted, tableOf } from "./names";

export function columnSql(c: Column): string {
  const target = COLUMNS[c.kind].link?.keyed && c.register ? ` references ${tableOf(c.register)} (id)` : "";
  return `${quoted(c.id)} ${COLUMNS[c.kind].type}${target}${c.needed ? " not null" : ""}`;
}

/** Makes a register with nobody's records in it. @param rights who may see what of it */
export async function createRegister(db: Db, shape: RegisterShape, rights: RegisterRights): Promise<void> {
  await db.query("insert into register (key, definition, rights) values ($1, $2, $3)", [
    shape.key,
    JSON.stringify(shape),
    JSON.stringify(rights),
  ]);
  await db.query(
    `
      create table ${tableOf(shape.key)} (id bigint generated always as identity primary key, ${shape.columns.map(columnSql).join(", ")})
    `,
  );
  for (const c of shape.columns)
    if (COLUMNS[c.kind].link?.keyed)
      await db.query(`create index on ${tableOf(shape.key)} (${quoted(c.id)})`);
  for (const c of shape.columns)
    if (c.unique || c.id === shape.key_column)
      await db.query(`create unique index on ${tableOf(shape.key)} (${quoted(c.id)})`);
  for (const { name, on } of indexesOf(shape))
    await db.query(`create index ${name} on ${tableOf(shape.key)} ${on}`);
}
