import { spawn } from "node:child_process";
import { closeSync, existsSync, openSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { buildPrograms, ensureBuild } from "./lib/build.mjs";
import { ensureDatabase, freePort, psql, startCluster } from "./lib/cluster.mjs";
import {
  BROWSER,
  ensureDebianPackages,
  ensureFolder,
  ensureNodePackages,
  IMAP,
  OFFICE,
  POSTGRES,
} from "./lib/packages.mjs";
import { keepRunning } from "./lib/keepRunning.mjs";
import { report, say, Trouble } from "./lib/say.mjs";
import { STAND_INS, standIns } from "./lib/standIns.mjs";

const root = join(fileURLToPath(import.meta.url), "../..");
const ALL = [
  "types",
  "lint",
  "boundaries",
  "formats",
  "unit",
  "properties",
  "components",
  "database",
  "browser",
];
const HELP = `npm test                     everything, from a clean start
npm test -- --on 2028-02-29  on that day by the application's clock (or a moment: 2026-03-29T00:55:00Z)
npm test -- unit database    only these parts; parts: ${ALL.join(", ")}
npm test -- FILE             only this file of tests, for example src/core/form/form.test.ts; several may be named
`;
const args = process.argv.slice(2);
/** The day the tests take place on, by the application's clock: never today, so that they pass on any day. */
let on = "2026-03-03T10:00:00Z";
const onAt = args.indexOf("--on");
if (onAt >= 0) {
  const said = args.splice(onAt, 2)[1] ?? "";
  on = /T/.test(said) ? said : `${said}T10:00:00Z`;
}
/** Files of tests asked for by name, as paths from the root. */
const files = args
  .filter((a) => /\.(test|spec)\.tsx?$/.test(a) && existsSync(a))
  .map((a) => relative(root, a));
/** The part a file belongs to; the same cut as in jest.config.mjs. */
function partOf(file) {
  if (file.endsWith(".spec.ts")) return "browser";
  if (file.startsWith("tests/database")) return "database";
  if (file.endsWith(".tsx")) return "components";
  return file.endsWith(".properties.test.ts") ? "properties" : "unit";
}
const filesOf = (part) => files.filter((f) => partOf(f) === part);
const bin = (name) => join(root, "node_modules/.bin", name);
const local = join(root, ".local");
const results = join(local, "results");
let cluster = null;
const children = new Set();
let passed = 0;
let failed = 0;

function run(name, command, argv, env = {}) {
  say(name);
  return new Promise((resolve) => {
    const child = spawn(command, argv, {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ["ignore", "pipe", "pipe"],
    });
    children.add(child);
    let out = "";
    child.stdout.on("data", (d) => (out += d));
    child.stderr.on("data", (d) => (out += d));
    child.on("close", (code) => {
      children.delete(child);
      if (code !== 0) process.stdout.write(`\n--- ${name} failed\n${out.slice(-12_000)}\n`);
      resolve({ code, out });
    });
  });
}
/** A check without single tests counts as one. */
const check = async (...a) => ((await run(...a)).code === 0 ? passed++ : failed++);
/** Checks that have nothing to do with each other, two at a time. */
async function twoByTwo(checks) {
  const left = [...checks];
  const lane = async () => {
    for (let next = left.shift(); next; next = left.shift()) await check(...next);
  };
  await Promise.all([lane(), lane()]);
}

async function jest(project, env) {
  const file = join(results, `${project}.json`);
  rmSync(file, { force: true });
  const { code } = await run(
    `${project} tests`,
    process.execPath,
    [
      bin("../jest/bin/jest.js"),
      "--selectProjects",
      project,
      "--json",
      `--outputFile=${file}`,
      "--silent",
      // Left to itself it leaves one core to somebody who watches, and takes twice as long where there are two.
      ...(project === "components" ? [] : ["--maxWorkers=2"]),
      ...(filesOf(project).length > 0 ? ["--runTestsByPath", ...filesOf(project)] : []),
    ],
    env,
  );
  const r = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
  passed += r?.numPassedTests ?? 0;
  failed += r ? r.numFailedTests + r.numRuntimeErrorTestSuites : 1;
  if (r && code !== 0 && r.numFailedTests + r.numRuntimeErrorTestSuites === 0) failed++;
}

async function testDatabase() {
  if (process.env.DATABASE_URL)
    say("DATABASE_URL is set; the tests use a private cluster of their own all the same");
  await ensureDebianPackages([POSTGRES, IMAP, ...OFFICE]);
  cluster = await startCluster(join(local, "test"), { port: await freePort(54410), throwAway: true });
  return cluster.url("postgres");
}

async function seed(database, requests, objects, more = {}) {
  await psql(cluster, "postgres", `drop database if exists ${database} with (force)`);
  await ensureDatabase(cluster, database);
  const { code } = await run(`demo data for ${database}`, process.execPath, ["dist/demo/main.cjs"], {
    DATABASE_URL: cluster.url(database),
    COBBLE_REQUESTS: String(requests),
    COBBLE_OBJECTS: String(objects),
    COBBLE_ON: on,
    // The browser tests ask for the keys of these.
    COBBLE_SPARE: "Tower House,Harbour Store",
    ...more,
  });
  if (code !== 0) throw new Trouble("The demo data could not be made.", "See above.");
}

/** The programs that the browser tests work with, while they run. */
let servers = [];

async function browser() {
  await ensureDebianPackages([BROWSER]);
  await ensureBuild(root);
  const port = await freePort(3400);
  const folder = join(local, "test-stand-ins");
  rmSync(folder, { recursive: true, force: true });
  const around = await standIns(folder, port, 3425);
  await seed("browser", 60, 2000, around);
  const env = {
    DATABASE_URL: cluster.url("browser"),
    COBBLE_DEMO: "1",
    NODE_ENV: "production",
    NEXT_TELEMETRY_DISABLED: "1",
    PORT: String(port),
    ...around,
  };
  const programs = [...STAND_INS.map(([, p]) => p), "dist/src/web/server.cjs", "dist/src/worker/main.cjs"];
  const log = join(results, "programs.log");
  const out = openSync(log, "w");
  // Kept running as they are where they do real work; what ended by itself is said.
  servers = programs.map((program) =>
    keepRunning({
      name: program,
      command: process.execPath,
      args: [program],
      cwd: root,
      env: { ...process.env, ...env },
      say,
      hopeless: (name) => say(`${name} cannot run with these settings`),
      out,
    }),
  );
  const failedBefore = failed;
  try {
    for (let i = 0; ; i++) {
      const up = await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (r) => r.ok,
        () => false,
      );
      if (up) break;
      if (i > 150)
        throw new Trouble(
          "The web server did not get ready within half a minute.",
          "Try npm run demo and see what it says.",
        );
      await new Promise((r) => setTimeout(r, 200));
    }
    const file = join(results, "browser.json");
    rmSync(file, { force: true });
    await run(
      "browser tests",
      process.execPath,
      [
        bin("../@playwright/test/cli.js"),
        "test",
        "--config",
        "tests/browser/playwright.config.ts",
        ...filesOf("browser"),
      ],
      {
        COBBLE_ON: on,
        DATABASE_URL: env.DATABASE_URL,
        BASE_URL: `http://localhost:${port}`,
        POST_URL: `http://localhost:${around.POST_PAGE}`,
        CHAT_URL: `http://localhost:${around.CHAT_PORT}`,
        SHELF_URL: `http://localhost:${around.SHELF_PORT}`,
        PRINT_URL: `http://localhost:${around.PRINT_PORT}`,
        PLAYWRIGHT_JSON_OUTPUT_NAME: file,
      },
    );
    const r = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
    passed += r?.stats.expected ?? 0;
    failed += r ? r.stats.unexpected + r.stats.flaky + r.errors.length : 1;
  } finally {
    await Promise.all(servers.map((s) => s.stop()));
    servers = [];
    closeSync(out);
    if (failed > failedBefore)
      process.stdout.write(`\nWhat the programs said last:\n${lastLines(log, 60)}\n`);
  }
}

const lastLines = (file, n) => readFileSync(file, "utf8").trimEnd().split("\n").slice(-n).join("\n");

async function main() {
  if (args.includes("--help")) return void process.stdout.write(HELP);
  if (Number.isNaN(Date.parse(on)))
    throw new Trouble(
      `"${on.slice(0, 40)}" is not a date.`,
      "Write for example: npm test -- --on 2028-02-29",
    );
  const named = args.filter((a) => !files.includes(relative(root, a)));
  const odd = named.find((a) => !ALL.includes(a));
  if (odd) throw new Trouble(`"${odd}" is not a part of the tests, nor a file of them.`, HELP);
  const parts = args.length > 0 ? [...named, ...files.map(partOf)] : ALL;
  const wants = (p) => parts.includes(p);
  ensureFolder(results);
  await ensureNodePackages(root);
  if (!existsSync(join(root, "next-env.d.ts")))
    writeFileSync(
      join(root, "next-env.d.ts"),
      '/// <reference types="next" />\n/// <reference types="next/image-types/global" />\n',
    );
  const script = (name, ...argv) => ["--import", "tsx", `scripts/${name}.ts`, ...argv];
  // The longest first; each has one core.
  await twoByTwo([
    ...(wants("lint") ? [["lint", bin("eslint"), ["."]]] : []),
    ...(wants("types")
      ? [
          ["types", bin("tsc"), ["--noEmit"]],
          ["types of the core alone", bin("tsc"), ["-p", "tsconfig.core.json"]],
        ]
      : []),
    ...(wants("lint")
      ? [
          ["layout of the lines", bin("prettier"), ["--check", "--log-level", "warn", "."]],
          ["nothing that nobody uses", bin("knip"), ["--no-progress"]],
        ]
      : []),
    ...(wants("boundaries")
      ? [
          [
            "import boundaries",
            bin("depcruise"),
            ["src", "--config", ".dependency-cruiser.cjs", "--output-type", "err"],
          ],
        ]
      : []),
    ...(wants("formats")
      ? [
          ["published schemas are current", process.execPath, script("formats", "--check")],
          ["types of the API are current", process.execPath, script("apiTypes", "--check")],
          ["the API's document is right", process.execPath, script("checkApi")],
        ]
      : []),
  ]);
  if (wants("unit")) {
    await ensureDebianPackages(OFFICE);
    await jest("unit");
  }
  if (wants("properties")) await jest("properties");
  if (wants("components")) await jest("components");
  if (wants("database") || wants("browser")) {
    await testDatabase();
    await buildPrograms(root);
  }
  if (wants("database")) {
    await seed("seeded", 0, 300);
    await jest("database", { CLUSTER_URL: cluster.url("postgres"), COBBLE_ON: on, NODE_ENV: "test" });
  }
  if (wants("browser")) await browser();
}

async function end(code) {
  for (const c of children) c.kill("SIGTERM");
  await Promise.all(servers.map((s) => s.stop()));
  await cluster?.stop();
  process.exit(code);
}
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => void end(130));

main()
  .then(async () => {
    if (!args.includes("--help")) process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
    await end(failed > 0 ? 1 : 0);
  })
  .catch(async (e) => {
    report(e);
    process.stdout.write(`\n${passed} passed, ${failed + 1} failed\n`);
    await end(1);
  });
