import type { Db } from "./pool";

/** Whose identity at a provider this is; people whose account is closed, too. */
export async function personOfIdentity(
  db: Db,
  issuer: string,
  subject: string,
): Promise<{ id: string; active: boolean } | null> {
  const { rows } = await db.query(
    `
      select p.id, p.active
      from person_identity i join person p on p.id = i.person_id
      where i.issuer = $1 and i.subject = $2
    `,
    [issuer, subject],
  );
  return rows[0] ?? null;
}
export const hasIdentity = async (db: Db, person: string, issuer: string): Promise<boolean> =>
  ((await db.query("select 1 from person_identity where person_id = $1 and issuer = $2", [person, issuer]))
    .rowCount ?? 0) > 0;
export const insertIdentity = (db: Db, issuer: string, subject: string, person: string) =>
  db.query("insert into person_identity (issuer, subject, person_id) values ($1, $2, $3)", [
    issuer,
    subject,
    person,
  ]);
