import { spawn } from "node:child_process";
import { writeFileSync } from "node:fs";
import { Agent, request } from "node:http";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { ensureBuild } from "./lib/build.mjs";
import { ensureDatabase, freePort, portFree, psql, removeCluster, startCluster } from "./lib/cluster.mjs";
import {
  BROWSER,
  ensureDebianPackages,
  ensureFolder,
  ensureNodePackages,
  OFFICE,
  POSTGRES,
  POSTGRES_BIN,
  runQuiet,
} from "./lib/packages.mjs";
import { report, say, Trouble } from "./lib/say.mjs";

/** Prints each figure beside its budget (docs/architecture.md). Ratios are against a reference of the same run. */
const root = join(fileURLToPath(import.meta.url), "../..");
const only = process.argv[2];
const children = [];
let cluster = null;
/** PostgreSQL counts what it is asked, and how long that takes. */
const STATEMENTS_COUNTED = ["shared_preload_libraries=pg_stat_statements"];
const CLIENTS = 8;
const REQUESTS = 4000;
/** Answers given before the clock runs: a server at work has compiled what it does. */
const WARM = 1500;

async function documents() {
  await ensureDebianPackages(OFFICE);
  process.stdout.write(
    await runQuiet(process.execPath, ["--import", "tsx", "scripts/bench/documents.ts"], { cwd: root }),
  );
}

async function decisions() {
  await ensureDebianPackages([POSTGRES]);
  await ensureBuild(root);
  const folder = join(root, ".local/bench");
  removeCluster(folder);
  cluster = await startCluster(folder, { port: await freePort(54510) });
  await ensureDatabase(cluster, "bench");
  const port = await freePort(3500);
  const env = {
    ...process.env,
    DATABASE_URL: cluster.url("bench"),
    NODE_ENV: "production",
    COBBLE_DEMO: "1",
    CALLS_PER_MINUTE: "1000000",
    PORT: String(port),
    COBBLE_REQUESTS: "0",
    COBBLE_OBJECTS: "50",
    NEXT_TELEMETRY_DISABLED: "1",
  };
  await runQuiet(process.execPath, ["dist/demo/main.cjs"], { cwd: root, env });
  say(`making ${only === "sheets" ? 8 : REQUESTS} requests to be answered`);
  const made = JSON.parse(
    (
      await runQuiet(
        process.execPath,
        ["--import", "tsx", "scripts/bench/prepare.ts", String(only === "sheets" ? 8 : REQUESTS)],
        {
          cwd: root,
          env,
        },
      )
    )
      .trim()
      .split("\n")
      .at(-1),
  );
  await psql(cluster, "bench", "vacuum analyze");
  // Each of those compared answers the same requests, none of them answered before.
  for (const copy of ["bench_bare", "bench_pgbench"])
    await psql(cluster, "postgres", `create database ${copy} template bench`);
  const web = spawn(process.execPath, ["dist/src/web/server.cjs"], { cwd: root, env, stdio: "ignore" });
  children.push(web);
  await answering(port);
  await ensureDebianPackages([BROWSER]);
  process.stdout.write(
    await runQuiet(process.execPath, ["--import", "tsx", "scripts/bench/sheet.ts"], { cwd: root, env }),
  );
  if (only === "sheets") return;
  // A client as light as can be: it runs on the cores of the server it measures.
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  const headers = {
    authorization: `Bearer ${made.key}`,
    "content-type": "application/json",
    "content-length": "29",
  };
  let bad = 0;
  const answer = (on, n) =>
    new Promise((resolve, reject) => {
      const path = `/api/v1/requests/${n}/tasks/t3/answer`;
      const call = request({ agent, host: "127.0.0.1", port: on, method: "POST", path, headers }, (r) => {
        if (r.statusCode !== 200 && bad++ < 3)
          r.on("data", (d) => process.stdout.write(`${r.statusCode} ${d}\n`));
        r.resume().on("end", resolve);
      });
      call.on("error", reject);
      call.end('{"answer":"approve","seen":9}');
    });
  /** Answers a second, by so many clients at once. */
  const drive = async (on, numbers) => {
    let next = 0;
    const began = performance.now();
    await Promise.all(
      Array.from({ length: CLIENTS }, async () => {
        while (next < numbers.length) await answer(on, numbers[next++]);
      }),
    );
    return numbers.length / ((performance.now() - began) / 1000);
  };
  await drive(port, made.numbers.slice(0, WARM));
  const ours = await drive(port, made.numbers.slice(WARM));
  if (bad > 0) throw new Trouble(`${bad} answers were refused.`, "The figures would mean nothing.");
  web.kill("SIGTERM");

  const barePort = await freePort(3560);
  const file = join(folder, "bare.json");
  writeFileSync(file, JSON.stringify(made.bare));
  const bare = spawn(process.execPath, ["--import", "tsx", "scripts/bench/bare.ts", String(barePort), file], {
    cwd: root,
    env: { ...env, DATABASE_URL: cluster.url("bench_bare") },
    stdio: "inherit",
  });
  children.push(bare);
  while (await portFree(barePort)) await new Promise((r) => setTimeout(r, 100));
  await drive(barePort, made.numbers.slice(0, WARM));
  const handler = await drive(barePort, made.numbers.slice(WARM));
  bare.kill("SIGTERM");

  const script = join(folder, "decision.sql");
  writeFileSync(script, made.script);
  const out = await runQuiet(
    `${POSTGRES_BIN}/pgbench`,
    [
      "-n",
      "-h",
      "127.0.0.1",
      "-p",
      String(cluster.port),
      "-U",
      "cobble",
      "-c",
      String(CLIENTS),
      "-j",
      "2",
      "-t",
      String(Math.floor(made.numbers.length / CLIENTS) - 1),
      "-M",
      "prepared",
      "-D",
      "i=-1",
      "-f",
      script,
      "bench_pgbench",
    ],
    { env: { ...process.env, PGPASSWORD: cluster.password } },
  ).catch((e) => {
    throw new Trouble(
      `pgbench refused: ${String(e.out)
        .trim()
        .split("\n")
        .filter((l) => l.includes("ERROR"))
        .slice(0, 2)
        .join(" ")
        .slice(0, 600)}`,
      "scripts/bench/prepare.ts notes the statements of one answer for it.",
    );
  });
  const theirs = Number(/tps = ([\d.]+)/.exec(out)?.[1]);
  process.stdout.write(
    `${"one decision, HTTP request to commit, 8 clients".padEnd(58)} ${`${ours.toFixed(0)}/s, ${(ours / theirs).toFixed(2)} of pgbench (${theirs.toFixed(0)}/s)`.padEnd(34)} budget 0.40\n` +
      `${"the same beside a bare handler with the same statements".padEnd(58)} ${`${(ours / handler).toFixed(2)} of it (${handler.toFixed(0)}/s)`.padEnd(34)} budget 0.80\n`,
  );
}

async function answering(port) {
  for (let i = 0; ; i++) {
    const up = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (up) return;
    if (i > 150) throw new Trouble("The web server did not start.", "Try npm run demo.");
    await new Promise((r) => setTimeout(r, 200));
  }
}

/** A million requests and ten thousand people; what is seeded stays in .local/scale and is gone on with. */
async function scale() {
  await ensureDebianPackages([POSTGRES]);
  await ensureBuild(root);
  cluster = await startCluster(join(root, ".local/scale"), {
    port: await freePort(54530),
    settings: STATEMENTS_COUNTED,
  });
  const port = await freePort(3520);
  const env = {
    ...process.env,
    DATABASE_URL: cluster.url("scale"),
    NODE_ENV: "production",
    PUBLIC_URL: `http://127.0.0.1:${port}`,
    SECRET_KEY: "only for measuring, never kept anywhere else",
    CALLS_PER_MINUTE: "1000000",
    PORT: String(port),
    COBBLE_REQUESTS: "40",
    COBBLE_OBJECTS: "50",
    NEXT_TELEMETRY_DISABLED: "1",
  };
  await ensureDatabase(cluster, "scale");
  await psql(cluster, "scale", "create extension if not exists pg_stat_statements");
  const seeded = await psql(cluster, "scale", "select to_regclass('public.process')");
  if (!seeded.includes("process"))
    await runQuiet(process.execPath, ["dist/demo/main.cjs"], {
      cwd: root,
      env: { ...env, COBBLE_DEMO: "1" },
    });
  else await runQuiet(process.execPath, ["dist/src/admin/main.cjs", "migrate"], { cwd: root, env });
  const part = (...args) =>
    new Promise((resolve, reject) => {
      const c = spawn(process.execPath, ["--import", "tsx", "scripts/bench/scale.ts", ...args], {
        cwd: root,
        env,
        stdio: "inherit",
      });
      children.push(c);
      c.on("exit", (code) =>
        code === 0 ? resolve() : reject(new Trouble("A part of the bench failed.", "See above.")),
      );
    });
  await part("seed");
  const web = spawn(process.execPath, ["dist/src/web/server.cjs"], { cwd: root, env, stdio: "ignore" });
  children.push(web);
  await answering(port);
  await part(`http://127.0.0.1:${port}`, ...process.argv.slice(3));
}

/** Something measured against a web server of its own, on the demo's data. */
async function served(name, script, ...args) {
  await ensureDebianPackages([POSTGRES]);
  await ensureBuild(root);
  const folder = join(root, ".local", name);
  removeCluster(folder);
  cluster = await startCluster(folder, { port: await freePort(54540), settings: STATEMENTS_COUNTED });
  const port = await freePort(3540);
  const env = {
    ...process.env,
    DATABASE_URL: cluster.url(name),
    NODE_ENV: "production",
    PUBLIC_URL: `http://127.0.0.1:${port}`,
    SECRET_KEY: "only for measuring, never kept anywhere else",
    CALLS_PER_MINUTE: "1000000",
    PORT: String(port),
    COBBLE_REQUESTS: "200",
    COBBLE_OBJECTS: "50",
    NEXT_TELEMETRY_DISABLED: "1",
  };
  await ensureDatabase(cluster, name);
  await runQuiet(process.execPath, ["dist/demo/main.cjs"], { cwd: root, env: { ...env, COBBLE_DEMO: "1" } });
  await psql(cluster, name, "vacuum analyze");
  const web = spawn(process.execPath, ["dist/src/web/server.cjs"], { cwd: root, env, stdio: "ignore" });
  children.push(web);
  await answering(port);
  process.stdout.write(
    await runQuiet(process.execPath, ["--import", "tsx", script, `http://127.0.0.1:${port}`, ...args], {
      cwd: root,
      env,
    }),
  );
  web.kill("SIGTERM");
  await cluster.stop();
  cluster = null;
  removeCluster(folder);
}
/** Beside a bare page of the same server. */
const pages = () => served("pages", "scripts/bench/pages.ts");
/** As many as are said, all due at once. */
const timers = () => served("timers", "scripts/bench/timers.ts", process.argv[3] ?? "100000");

/** Out by two workers, and in; as many as are said. */
const mail = () => served("mail", "scripts/bench/mail.ts", ...process.argv.slice(3));

/** Hundreds of them in one request. */
const rounds = () => served("rounds", "scripts/bench/rounds.ts");
/** Ten thousand brought in, a million listed. */
const records = () => served("records", "scripts/bench/records.ts");

async function main() {
  if (
    only &&
    ![
      "formulas",
      "core",
      "sheets",
      "pages",
      "rounds",
      "records",
      "decisions",
      "timers",
      "mail",
      "documents",
      "scale",
    ].includes(only)
  )
    throw new Trouble(
      `"${only}" is not a part of the bench.`,
      "Parts: formulas, core, sheets, pages, rounds, records, decisions, timers, mail, documents, scale.",
    );
  ensureFolder(join(root, ".local"));
  await ensureNodePackages(root);
  if (only === "scale") return scale();
  if (only === "pages") return pages();
  if (only === "timers") return timers();
  if (only === "mail") return mail();
  if (only === "rounds") return rounds();
  if (only === "records") return records();
  if (only === "documents") return documents();
  if (only !== "decisions" && only !== "sheets") {
    await ensureDebianPackages([BROWSER]);
    process.stdout.write(
      await runQuiet(
        process.execPath,
        ["--import", "tsx", "scripts/bench/core.ts", ...(only === "formulas" ? ["formulas"] : [])],
        { cwd: root },
      ),
    );
  }
  if (!only) await pages();
  if (!only) await rounds();
  if (!only) await documents();
  if (!only || only === "decisions" || only === "sheets") await decisions();
}
main()
  .catch(report)
  .finally(async () => {
    for (const c of children) c.kill("SIGTERM");
    await cluster?.stop();
    process.exit(process.exitCode ?? 0);
  });
