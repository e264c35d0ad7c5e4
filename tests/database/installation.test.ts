import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { randomBytes } from "node:crypto";
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { KINDS } from "@/kinds";
import { closePool } from "@/db";
import {
  actorOfSession,
  addDuty,
  addFile,
  addPerson,
  beginProcess,
  draftView,
  editDraft,
  noticesOf,
  releaseDraft,
  replayRequests,
  setPasswordByLink,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { readFile } from "./readFile";
import { BROWSER, sql, until, value } from "./world";

/** An installation as an organisation would have it: two roles, an empty database, commands, a worker. */

// Each starts programs of its own: a dump, a restore, a server.
jest.setTimeout(60_000);

const cluster = process.env["CLUSTER_URL"]!;
const tag = randomBytes(4).toString("hex");
const [OWNER, APP, DB] = [`owner_${tag}`, `app_${tag}`, `org_${tag}`];
const urlOf = (role: string, database = DB) => {
  const u = new URL(cluster);
  u.pathname = `/${database}`;
  u.username = role;
  u.password = "s3cret";
  return u.href;
};
const folder = mkdtempSync(join(tmpdir(), "cobble-"));
const env = {
  ...process.env,
  NODE_ENV: "production",
  DATABASE_URL: urlOf(APP),
  MIGRATE_URL: urlOf(OWNER),
  PUBLIC_URL: "https://requests.quillhaven.example",
  SECRET_KEY: "k".repeat(40),
} as NodeJS.ProcessEnv;
const admin = (args: string[], more: Record<string, string> = {}) => {
  const r = spawnSync(process.execPath, ["dist/src/admin/main.cjs", ...args], {
    env: { ...env, ...more },
    encoding: "utf8",
  });
  return { code: r.status, out: r.stdout, err: r.stderr };
};
const script = (args: string[], more: Record<string, string> = {}) => {
  const r = spawnSync(process.execPath, ["scripts/backup.mjs", ...args], {
    env: { ...env, ...more },
    encoding: "utf8",
  });
  return { code: r.status, out: r.stdout + r.stderr };
};
const superuser = async (...statements: string[]) => {
  const c = new pg.Client({ connectionString: cluster });
  await c.connect();
  for (const s of statements) await c.query(s);
  await c.end();
};
let worker: ChildProcess | null = null;
let keeper: Actor;

beforeAll(async () => {
  await superuser(
    `create role ${OWNER} login password 's3cret'`,
    `create role ${APP} login password 's3cret'`,
    `grant ${APP} to ${OWNER}`,
    `create database ${DB} owner ${OWNER}`,
    `create database ${DB}_back owner ${OWNER}`,
  );
  process.env["DATABASE_URL"] = urlOf(APP);
});
afterAll(async () => {
  worker?.kill("SIGKILL");
  await closePool();
  await superuser(
    `drop database ${DB} with (force)`,
    `drop database ${DB}_back with (force)`,
    `drop role ${APP}`,
    `drop role ${OWNER}`,
  );
  rmSync(folder, { recursive: true });
});

it("migrations are a command, held against two at once; nothing starts before them", async () => {
  expect(admin(["ready"])).toMatchObject({
    code: 1,
    err: expect.stringContaining("npm run migrate") as string,
  });
  const both = await Promise.all(
    [1, 2].map(
      () =>
        new Promise<number | null>((resolve) =>
          spawn(process.execPath, ["dist/src/admin/main.cjs", "migrate"], { env, stdio: "ignore" }).on(
            "exit",
            resolve,
          ),
        ),
    ),
  );
  expect(both).toEqual([0, 0]);
  expect(admin(["ready"])).toMatchObject({ code: 0 });
  expect(admin(["migrate"]).out).toContain("up to date");
  const rows = await sql<{ n: number; d: number }>(
    "select count(*)::int n, count(distinct name)::int d from schema_migration",
  );
  expect(rows[0]!.n).toBe(rows[0]!.d);
});

it("what is set wrong is said in sentences, without a stack", () => {
  expect(admin(["migrate"], { DATABASE_URL: "" }).err).toMatch(/^DATABASE_URL is not set/);
  const away = admin(["ready"], { DATABASE_URL: "postgres://a:b@127.0.0.1:1/x" });
  expect(away).toMatchObject({ code: 1 });
  expect(away.err).toMatch(/^The database cannot be reached/);
  expect(admin(["nothing"]).err).toMatch(/^There is no command/);
  expect(admin(["first-person"], { PUBLIC_URL: "" }).err).toMatch(/^PUBLIC_URL is not set/);
});

it("its role has what it needs, and no more", async () => {
  const [role] = await sql<Record<string, boolean>>(
    "select rolsuper, rolcreatedb, rolcreaterole, rolbypassrls from pg_roles where rolname = current_user",
  );
  expect(Object.values(role!)).toEqual([false, false, false, false]);
  for (const refused of [
    "create table public.mine (a int)",
    "drop table request",
    "alter table request add column mine int",
    "update office_log set what = 'signed out'",
    "update process_log set what = 'made'",
    "delete from schema_migration",
    "create schema other",
  ])
    await expect(sql(refused)).rejects.toThrow(/permission denied|must be owner/);
});

it("the first person comes by a link printed once, and only where nobody has the rights", async () => {
  expect(admin(["first-person", "--name", "Una Quirke"]).err).toContain("--email");
  const made = admin([
    "first-person",
    "--name",
    "Una Quirke",
    "--email",
    "Una@Quillhaven.example",
    "--zone",
    "Europe/Dublin",
  ]);
  expect(made).toMatchObject({ code: 0, err: "" });
  const link = /https:\/\/requests\.quillhaven\.example\/set-password\?token=([\w-]{43})/.exec(made.out)!;
  expect(admin(["first-person", "--name", "Eve", "--email", "eve@quillhaven.example"]).err).toContain(
    "Una Quirke",
  );
  const { token } = value(await setPasswordByLink(link[1]!, "lantern orchard ferry nine", BROWSER));
  keeper = (await actorOfSession(token))!;
  expect(keeper).toMatchObject({ id: "una.quirke", officeRights: true, zone: "Europe/Dublin" });
  value(
    await addPerson(keeper, {
      name: "Dov Merrick",
      email: "dov@quillhaven.example",
      jobTitle: "",
      department: "Learning",
      site: "",
      manager: "una.quirke",
      calendar: "office",
      zone: "Europe/Dublin",
    }),
  );
  value(await addDuty(keeper, "dov.merrick", "Key holder", { site: "Tower House", department: null }));
});

it("a process is made, released, asked and carried to its end by a worker of this role", async () => {
  const { key } = value(await beginProcess(keeper, "Parking permit", "PARK"));
  const { definition, version } = value(await draftView(keeper, key));
  const route = [KINDS.steps.tell.blank("tell"), KINDS.steps.finish.blank("end")];
  value(
    await editDraft(keeper, key, version, [
      { op: "process.replace", definition: { ...definition, route } as never },
    ]),
  );
  value(await releaseDraft(keeper, key, "1.0.0", ""));
  worker = spawn(process.execPath, ["dist/src/worker/main.cjs"], { env, stdio: "ignore" });
  for (let i = 0; i < 5; i++) value(await startRequest(keeper, key, {}));
  await until("all are told", async () => (await noticesOf(keeper)).length === 5);
  expect(await sql("select 1 from graphile_worker.jobs where attempts >= max_attempts")).toEqual([]);
});

it("what is in files is moved to a folder and back by a command, and held against its fingerprints", async () => {
  const place = join(folder, "files");
  const [inFolder, none] = [{ FILES_FOLDER: place }, { FILES_FOLDER: "" }];
  const bytes = Buffer.alloc(2_500_000, "two parts and a half ");
  const { id } = value(await addFile(keeper, "all.bin", bytes));
  expect(admin(["files"], inFolder).err).toMatch(/^Say what is to be done/);
  expect(admin(["files", "folder"], none).err).toMatch(/^FILES_FOLDER is not set/);
  expect(admin(["files", "folder"], { FILES_FOLDER: "files" }).err).toMatch(/^FILES_FOLDER is "files"/);
  expect(admin(["files", "folder"], inFolder).err).toMatch(/^Files cannot be kept in .*ENOENT/);
  mkdirSync(place);
  expect(admin(["files", "folder"], inFolder)).toMatchObject({ code: 0, out: "1 moved, 2.5 MB\n" });
  expect(await sql("select 1 from content_part")).toEqual([]);
  expect(admin(["files", "check"], inFolder).out).toBe("1 held against their fingerprints, 2.5 MB\n");
  // Whoever starts it without the folder is told.
  expect(admin(["ready"], none)).toMatchObject({ code: 1 });
  expect(admin(["ready"], none).err).toMatch(/^Files are kept in a folder/);
  expect(admin(["ready"], inFolder)).toMatchObject({ code: 0 });
  const [name] = readdirSync(place, { recursive: true, encoding: "utf8" }).filter((x) => x.length > 60);
  const path = join(place, name!);
  writeFileSync(path, bytes.subarray(1));
  const damaged = admin(["files", "check"], inFolder);
  expect([damaged.code, damaged.err]).toEqual([1, expect.stringMatching(/^1 are not what they were/)]);
  expect(admin(["files", "database"], inFolder).err).toMatch(/^1 were left where they are/);
  writeFileSync(path, bytes);
  expect(admin(["files", "database"], inFolder).out).toContain("1 moved, 2.5 MB");
  expect(value(await readFile(keeper, id)).bytes.equals(bytes)).toBe(true);
  expect(admin(["ready"], none)).toMatchObject({ code: 0 });
});

it("a backup, restored elsewhere, is the same, and every request replays", async () => {
  const file = join(folder, "a.dump");
  expect(script(["backup", file])).toMatchObject({ code: 0 });
  expect(statSync(file).mode & 0o077).toBe(0);
  expect(script(["backup", file]).out).toContain("there already");
  expect(script(["restore", file]).out).toContain("not empty");
  writeFileSync(join(folder, "broken.dump"), "not a dump");
  const back = { DATABASE_URL: urlOf(APP, `${DB}_back`), MIGRATE_URL: urlOf(OWNER, `${DB}_back`) };
  expect(script(["restore", join(folder, "broken.dump")], back)).toMatchObject({ code: 1 });
  expect(script(["restore", file], back)).toMatchObject({ code: 0 });
  expect(admin(["migrate"], back)).toMatchObject({ code: 0 });
  expect(admin(["ready"], back)).toMatchObject({ code: 0 });
  const replayed = admin(["replay"], back);
  expect(replayed.out).toContain("5 requests");
  expect(replayed.code).toBe(0);
  // What was kept is there, table by table.
  const counts = async (url: string) => {
    const c = new pg.Client({ connectionString: url });
    await c.connect();
    const { rows } = await c.query<{ t: string }>(
      "select format('%I.%I', schemaname, tablename) t from pg_tables where schemaname in ('public', 'register') order by 1",
    );
    const out: Record<string, unknown> = {};
    for (const { t } of rows)
      out[t] = (
        await c.query(
          `select count(*)::int n, md5(coalesce(string_agg(x::text, '|' order by x::text), '')) h from ${t} x`,
        )
      ).rows[0];
    await c.end();
    return out;
  };
  expect(await counts(back.DATABASE_URL)).toEqual(await counts(urlOf(APP)));
  // A worker of the restored one works, too.
  worker?.kill("SIGTERM");
  worker = spawn(process.execPath, ["dist/src/worker/main.cjs"], {
    env: { ...env, ...back },
    stdio: "ignore",
  });
  await closePool();
  process.env["DATABASE_URL"] = back.DATABASE_URL;
  value(await startRequest(keeper, "parking-permit", {}));
  await until("the sixth is told", async () => (await noticesOf(keeper)).length === 6);
});

it("what is kept otherwise than its events tell is found", async () => {
  expect(await replayRequests(SYSTEM)).toMatchObject({ requests: 6, differ: [] });
  await sql(
    `update request set state = jsonb_set(state::jsonb, '{result,name}', '"otherwise"')::json where number = 'PARK-0002'`,
  );
  expect((await replayRequests(SYSTEM)).differ).toEqual(["PARK-0002"]);
  expect(admin(["replay"], { DATABASE_URL: urlOf(APP, `${DB}_back`) })).toMatchObject({
    code: 1,
    err: expect.stringContaining("PARK-0002") as string,
  });
});
