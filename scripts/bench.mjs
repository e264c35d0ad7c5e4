import { spawn } from "node:child_process";
import { writeFileSync } from "node:fs";
import { Agent, request } from "node:http";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { ensureBuild } from "./lib/build.mjs";
import { ensureDatabase, freePort, psql, removeCluster, startCluster } from "./lib/cluster.mjs";
import {
  BROWSER,
  ensureDebianPackages,
  ensureFolder,
  ensureNodePackages,
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
const CLIENTS = 8;
const REQUESTS = 1600;

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
  const web = spawn(process.execPath, ["dist/src/web/server.cjs"], { cwd: root, env, stdio: "ignore" });
  children.push(web);
  await answering(port);
  await ensureDebianPackages([BROWSER]);
  process.stdout.write(
    await runQuiet(process.execPath, ["--import", "tsx", "scripts/bench/sheet.ts"], { cwd: root, env }),
  );
  if (only === "sheets") return;
  let next = 0;
  let bad = 0;
  // A client as light as can be: it runs on the cores of the server it measures.
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  const headers = {
    authorization: `Bearer ${made.key}`,
    "content-type": "application/json",
    "content-length": "29",
  };
  const answer = (n) =>
    new Promise((resolve, reject) => {
      const call = request(
        {
          agent,
          host: "127.0.0.1",
          port,
          method: "POST",
          path: `/api/v1/requests/${n}/tasks/t3/answer`,
          headers,
        },
        (r) => {
          if (r.statusCode !== 200 && bad++ < 3)
            r.on("data", (d) => process.stdout.write(`${r.statusCode} ${d}\n`));
          r.resume().on("end", resolve);
        },
      );
      call.on("error", reject);
      call.end('{"answer":"approve","seen":9}');
    });
  const drive = async (until) => {
    while (next < until) await answer(made.numbers[next++]);
  };
  const phase = async (until) => {
    const began = performance.now();
    const from = next;
    await Promise.all(Array.from({ length: CLIENTS }, () => drive(until)));
    return (until - from) / ((performance.now() - began) / 1000);
  };
  await phase(400);
  const ours = await phase(made.numbers.length);
  if (bad > 0) throw new Trouble(`${bad} answers were refused.`, "The figures would mean nothing.");
  web.kill("SIGTERM");

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
      "-T",
      "8",
      "-M",
      "prepared",
      "-f",
      script,
      "bench",
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
      "The statements in scripts/bench/prepare.ts must follow those of src/db/requests/saveRequest.ts.",
    );
  });
  const theirs = Number(/tps = ([\d.]+)/.exec(out)?.[1]);
  process.stdout.write(
    `${"one decision, HTTP request to commit, 8 clients".padEnd(58)} ${`${ours.toFixed(0)}/s, ${(ours / theirs).toFixed(2)} of pgbench (${theirs.toFixed(0)}/s)`.padEnd(34)} budget 0.40\n`,
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
  cluster = await startCluster(join(root, ".local/scale"), { port: await freePort(54530) });
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

/** Pages beside a bare page of the same server, on the demo's data. */
async function pages() {
  await ensureDebianPackages([POSTGRES]);
  await ensureBuild(root);
  const folder = join(root, ".local/pages");
  removeCluster(folder);
  cluster = await startCluster(folder, {
    port: await freePort(54540),
    settings: ["shared_preload_libraries=pg_stat_statements"],
  });
  const port = await freePort(3540);
  const env = {
    ...process.env,
    DATABASE_URL: cluster.url("pages"),
    NODE_ENV: "production",
    PUBLIC_URL: `http://127.0.0.1:${port}`,
    SECRET_KEY: "only for measuring, never kept anywhere else",
    CALLS_PER_MINUTE: "1000000",
    PORT: String(port),
    COBBLE_REQUESTS: "200",
    COBBLE_OBJECTS: "50",
    NEXT_TELEMETRY_DISABLED: "1",
  };
  await ensureDatabase(cluster, "pages");
  await runQuiet(process.execPath, ["dist/demo/main.cjs"], { cwd: root, env: { ...env, COBBLE_DEMO: "1" } });
  await psql(cluster, "pages", "vacuum analyze");
  const web = spawn(process.execPath, ["dist/src/web/server.cjs"], { cwd: root, env, stdio: "ignore" });
  children.push(web);
  await answering(port);
  process.stdout.write(
    await runQuiet(
      process.execPath,
      ["--import", "tsx", "scripts/bench/pages.ts", `http://127.0.0.1:${port}`],
      { cwd: root, env },
    ),
  );
  web.kill("SIGTERM");
  await cluster.stop();
  cluster = null;
}

async function main() {
  if (only && !["formulas", "core", "sheets", "pages", "decisions", "scale"].includes(only))
    throw new Trouble(
      `"${only}" is not a part of the bench.`,
      "Parts: formulas, core, sheets, pages, decisions, scale.",
    );
  ensureFolder(join(root, ".local"));
  await ensureNodePackages(root);
  if (only === "scale") return scale();
  if (only === "pages") return pages();
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
  if (!only || only === "decisions" || only === "sheets") await decisions();
}
main()
  .catch(report)
  .finally(async () => {
    for (const c of children) c.kill("SIGTERM");
    await cluster?.stop();
    process.exit(process.exitCode ?? 0);
  });
