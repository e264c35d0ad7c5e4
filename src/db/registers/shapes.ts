import type { RegisterRights, RegisterShape } from "@/core/form";
import type { Db } from "../pool";

export const allRegisters = async (db: Db): Promise<RegisterShape[]> =>
  (
    await db.query({
      name: "registers",
      text: "select definition from register order by definition->>'name'",
    })
  ).rows.map((r) => r.definition);

/** Who may see what of each register, by its key. */
export const allRights = async (db: Db): Promise<Record<string, RegisterRights>> =>
  Object.fromEntries(
    (await db.query({ name: "register-rights", text: "select key, rights from register" })).rows.map((r) => [
      r.key,
      r.rights,
    ]),
  );

/** The rights of one register, held until the transaction ends; null where there is no such register. */
export const holdRights = async (db: Db, key: string): Promise<RegisterRights | null> =>
  (await db.query("select rights from register where key = $1 for no key update", [key])).rows[0]?.rights ??
  null;

export const setRights = (db: Db, key: string, rights: RegisterRights) =>
  db.query("update register set rights = $2 where key = $1", [key, JSON.stringify(rights)]);
