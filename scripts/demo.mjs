import { spawn } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { ensureBuild } from "./lib/build.mjs";
import { ensureDatabase, freePort, portFree, removeCluster, startCluster } from "./lib/cluster.mjs";
import {
  ensureDebianPackages,
  ensureFolder,
  ensureNodePackages,
  IMAP,
  OFFICE,
  POSTGRES,
} from "./lib/packages.mjs";
import { report, say, Trouble } from "./lib/say.mjs";
import { STAND_INS, standIns } from "./lib/standIns.mjs";

const HELP = `npm run demo            sets up what is missing, starts everything, prints one address
npm run demo -- --fresh  the same, with all demo data thrown away first
  PORT=4000             another port than 3210
  DATABASE_URL=...      another PostgreSQL than the private one under .local/
`;
const root = join(fileURLToPath(import.meta.url), "../..");
const args = process.argv.slice(2);
const stops = [];
let stopping = false;

async function stopAll() {
  if (stopping) return;
  stopping = true;
  for (const stop of stops.reverse()) await stop().catch(() => undefined);
}
for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => {
    process.stdout.write("\n");
    say("stopping");
    void stopAll().then(() => process.exit(0));
  });

/** Starts a program of ours and stops everything when it dies by itself. */
function start(name, command, argv, env) {
  const child = spawn(command, argv, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", "pipe", "pipe"],
    detached: true,
  });
  let log = "";
  const keep = (d) => (log = (log + d).slice(-3000));
  child.stdout.on("data", keep);
  child.stderr.on("data", keep);
  let gone = false;
  child.on("exit", (code) => {
    gone = true;
    if (stopping) return;
    report(
      new Trouble(
        `The ${name} ended by itself (${code}). Its last lines:\n${log.trim().split("\n").slice(-8).join("\n")}`,
        "Run npm run demo again.",
      ),
    );
    void stopAll().then(() => process.exit(1));
  });
  stops.push(
    () =>
      new Promise((resolve) => {
        if (gone) return resolve();
        child.once("exit", () => resolve());
        child.kill("SIGTERM");
        setTimeout(() => child.kill("SIGKILL"), 4000).unref();
      }),
  );
  return child;
}

async function main() {
  if (args.includes("--help")) return void process.stdout.write(HELP);
  const odd = args.find((a) => a !== "--fresh");
  if (odd) throw new Trouble(`"${odd}" is not an option of this command.`, HELP);
  if (Number(process.versions.node.split(".")[0]) < 20)
    throw new Trouble(
      `This is Node.js ${process.versions.node}; Cobble Step needs 20 or newer.`,
      "Install a newer Node.js.",
    );
  const port = Number(process.env.PORT ?? 3210);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Trouble(
      `PORT=${process.env.PORT} is not a port.`,
      "Take a number between 1024 and 65535, for example: PORT=4000 npm run demo",
    );
  if (!(await portFree(port)))
    throw new Trouble(
      `Port ${port} is in use, perhaps by a demo that still runs.`,
      `End that program, or take another port: PORT=${port + 1} npm run demo`,
    );
  const local = join(root, ".local");
  ensureFolder(local);
  await ensureNodePackages(root);
  let url = process.env.DATABASE_URL;
  if (!url) {
    await ensureDebianPackages([POSTGRES]);
    const folder = join(local, "demo");
    if (existsSync(join(folder, "data/postmaster.pid"))) {
      const pid = Number(readFileSync(join(folder, "data/postmaster.pid"), "utf8").split("\n")[0]);
      if (existsSync(`/proc/${pid}`))
        throw new Trouble(
          `The demo's database is running already (process ${pid}).`,
          "End the other npm run demo first, with Ctrl-C in its window.",
        );
    }
    if (args.includes("--fresh")) removeCluster(folder);
    const cluster = await startCluster(folder, { port: await freePort(54310) });
    stops.push(cluster.stop);
    await ensureDatabase(cluster, "cobble");
    url = cluster.url("cobble");
  }
  await ensureDebianPackages([IMAP, ...OFFICE]);
  await ensureBuild(root);
  const folder = join(local, "demo-stand-ins");
  if (args.includes("--fresh")) rmSync(folder, { recursive: true, force: true });
  const env = {
    DATABASE_URL: url,
    NODE_ENV: "production",
    COBBLE_DEMO: "1",
    PORT: String(port),
    NEXT_TELEMETRY_DISABLED: "1",
    ...(await standIns(folder, port, 3225)),
  };
  await new Promise((resolve, reject) => {
    const seed = spawn(process.execPath, ["dist/demo/main.cjs"], {
      cwd: root,
      env: { ...process.env, ...env, PGOPTIONS: "-c synchronous_commit=off" },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let err = "";
    seed.stdout.on("data", (d) =>
      String(d)
        .trim()
        .split("\n")
        .forEach((l) => l && say(l)),
    );
    seed.stderr.on("data", (d) => (err += d));
    seed.on("exit", (code) =>
      code === 0
        ? resolve()
        : reject(
            new Trouble(
              `The demo data could not be made:\n${err.trim().split("\n").slice(-6).join("\n")}`,
              "Start over with: npm run demo -- --fresh",
            ),
          ),
    );
  });
  if (stopping) return;
  for (const [name, program] of STAND_INS) start(name, process.execPath, [program], env);
  start("worker", process.execPath, ["dist/src/worker/main.cjs"], env);
  start("web server", process.execPath, ["dist/src/web/server.cjs"], env);
  const address = `http://localhost:${port}`;
  for (let i = 0; i < 300 && !stopping; i++) {
    try {
      if ((await fetch(`http://127.0.0.1:${port}/api/health`)).ok) break;
    } catch {
      // Not listening yet.
    }
    await new Promise((r) => setTimeout(r, 100));
  }
  if (!stopping)
    process.stdout.write(
      `\n  Cobble Step is running: ${address}\n  Ctrl-C stops it; the data stay. The password of every demo person is "quillhaven".\n\n`,
    );
}

main().catch(async (e) => {
  report(e);
  await stopAll();
  process.exit(1);
});
