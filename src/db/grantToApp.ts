import pg from "pg";
import { MIGRATING } from "./migrate";

/** Entries of the logs are added and, when their time is over, removed; nobody changes them. */
const NEVER_CHANGED = ["office_log", "process_log", "schema_migration"];

/**
 * Gives the role under which Cobble Step runs what it needs in a database that another role owns, and no more: rows of
 * its tables; registers and the queue, whose tables it makes and changes itself.
 * @param owner url of the owning role, which must be a member of `role` (grant ROLE to OWNER)
 */
export async function grantToApp(owner: string, role: string): Promise<void> {
  const client = new pg.Client({ connectionString: owner });
  await client.connect();
  const app = pg.escapeIdentifier(role);
  try {
    await client.query("begin");
    // Two at once would change the same rows of the catalogue, and one of them fail.
    await client.query("select pg_advisory_xact_lock($1)", [MIGRATING]);
    await client.query(`grant usage on schema public to ${app}`);
    await client.query(`grant select, insert, update, delete on all tables in schema public to ${app}`);
    await client.query(`grant usage, select on all sequences in schema public to ${app}`);
    // Columns of registers point at people.
    await client.query(`grant references on person to ${app}`);
    for (const table of NEVER_CHANGED) await client.query(`revoke update on ${table} from ${app}`);
    await client.query(`revoke insert, delete on schema_migration from ${app}`);
    for (const schema of ["register", "graphile_worker"]) await handOver(client, schema, app);
    await client.query("commit");
  } catch (e) {
    await client.query("rollback").catch(() => undefined);
    throw e;
  } finally {
    await client.end();
  }
}

/** Makes the role the owner of a schema and of all in it. */
async function handOver(client: pg.Client, schema: string, app: string): Promise<void> {
  const all = await client.query<{ ddl: string }>(
    `
      select format('alter %s %I.%I owner to ${app.replace(/'/g, "''")}', case c.relkind
        when 'S' then 'sequence' when 'v' then 'view' else 'table' end, $1::text, c.relname) as ddl
      from pg_class c
      where c.relnamespace = to_regnamespace($1)
        and c.relkind in ('r', 'p', 'v', 'S')
        -- A sequence of an identity column goes with its table.
        and not exists (
          select from pg_depend d where d.objid = c.oid and d.classid = 'pg_class'::regclass and d.deptype in ('a', 'i')
            and c.relkind = 'S'
        )
      union all
      select format('alter routine %s owner to ${app.replace(/'/g, "''")}', p.oid::regprocedure)
      from pg_proc p
      where p.pronamespace = to_regnamespace($1)
      union all
      select format('alter type %I.%I owner to ${app.replace(/'/g, "''")}', $1::text, t.typname)
      from pg_type t
      where t.typnamespace = to_regnamespace($1)
        and (t.typtype in ('e', 'd') or (t.typtype = 'c' and (select relkind from pg_class where oid = t.typrelid) = 'c'))
    `,
    [schema],
  );
  // A schema is handed over first: what is in it may belong only to who may make things there.
  await client.query(`alter schema ${pg.escapeIdentifier(schema)} owner to ${app}`);
  for (const { ddl } of all.rows) await client.query(ddl);
}
