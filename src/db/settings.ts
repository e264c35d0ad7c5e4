import type { Db } from "./pool";

export async function readSetting<T>(db: Db, key: string): Promise<T | null> {
  const { rows } = await db.query({
    name: "setting",
    text: "select value from setting where key = $1",
    values: [key],
  });
  return rows[0]?.value ?? null;
}
export const writeSetting = (db: Db, key: string, value: unknown) =>
  db.query(
    `
      insert into setting (key, value)
      values ($1, $2)
      on conflict (key) do update
      set value = excluded.value
    `,
    [key, JSON.stringify(value)],
  );
