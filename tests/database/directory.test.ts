import { getPool } from "@/db";
import { loadDirectory, type Directory } from "@/services/kernel/directory";
import { openWorld, sql } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

/** Read whole and put together plainly. */
async function plainly() {
  const rows = await sql<{
    id: string;
    name: string;
    kind: string;
    manager_id: string | null;
    active: boolean;
  }>("select id, name, kind, manager_id, active from person order by name, id");
  const people = rows.filter((r) => r.kind === "person");
  return {
    people: people.map((p) => `${p.id} ${p.name} ${p.active}`),
    services: rows.filter((r) => r.kind === "service").map((p) => `${p.id} ${p.name} ${p.active}`),
    managers: Object.fromEntries(people.flatMap((p) => (p.manager_id ? [[p.id, p.manager_id]] : []))),
    facts: rows.map((r) => `${r.id} ${r.name}`).sort(),
  };
}
const shown = (d: Directory) => ({
  people: [...d.people.values()].map((p) => `${p.id} ${p.name} ${p.active}`),
  services: [...d.services.values()].map((p) => `${p.id} ${p.name} ${p.active}`),
  managers: d.managers,
  facts: Object.values(d.facts)
    .map((f) => `${f.id} ${f.name}`)
    .sort(),
});
const asItIs = async () => expect(shown(await loadDirectory(getPool()))).toEqual(await plainly());

it("what changes of people is read as if all were read anew: renamed, new, gone, another kind, taken back, late to commit", async () => {
  await asItIs();
  await sql("update person set name = 'Aaron Zell' where id = 'hugo.brannock'");
  await asItIs();
  await sql(
    "insert into person (id, name, email) values ('new.one', 'Mina Corrigan', 'mina@quillhaven.example')",
  );
  await asItIs();
  await sql("update person set manager_id = 'new.one' where id = 'hugo.brannock'");
  await asItIs();
  await sql(
    "update person set manager_id = null where id = 'hugo.brannock'; delete from person where id = 'new.one'",
  );
  await asItIs();
  // As many as before, but another.
  await sql("insert into person (id, name, email) values ('new.two', 'Ann Roe', 'ann@quillhaven.example')");
  await asItIs();
  await sql(
    "delete from person where id = 'new.two'; insert into person (id, name, email) values ('new.three', 'Bea Roe', 'bea@quillhaven.example')",
  );
  await asItIs();
  await sql("update person set kind = 'service' where id = 'new.three'");
  await asItIs();

  // Seen by the transaction that changes it, and by nobody once that is taken back.
  const client = await getPool().connect();
  await client.query("begin");
  await client.query("update person set name = 'Never So' where id = 'hugo.brannock'");
  expect((await loadDirectory(client)).people.get("hugo.brannock")!.name).toBe("Never So");
  await client.query("rollback");
  await asItIs();
  await sql("update person set site = site where id = 'lucia.penrose'");
  await asItIs();

  // Begun before a reading and committed after it.
  await client.query("begin");
  await client.query("update person set name = 'Late Commit' where id = 'hugo.brannock'");
  await asItIs();
  await client.query("commit");
  client.release();
  await asItIs();
  expect((await loadDirectory(getPool())).people.get("hugo.brannock")!.name).toBe("Late Commit");

  // Brought back from a backup: another table, with rows as they were, numbered long ago.
  await sql(`
    alter table person disable trigger changed;
    update person set name = 'As Before', changed = '3'::xid8 where id = 'hugo.brannock';
    alter table person enable trigger changed;
  `);
  expect((await loadDirectory(getPool())).people.get("hugo.brannock")!.name).toBe("Late Commit");
  await sql(`
    create table brought (like person including all);
    insert into brought select * from person;
    alter table person rename to before;
    alter table brought rename to person;
  `);
  await sql("update setting set value = bumped(value, 'people') where key = 'directory_version'");
  await asItIs();
});
