import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { say, Trouble } from "./say.mjs";

const PNPM = "pnpm@10.34.8";

/** Runs a program, its output kept for the case that it fails. */
export function runQuiet(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"], ...options });
    let out = "";
    child.stdout.on("data", (d) => (out += d));
    child.stderr.on("data", (d) => (out += d));
    child.on("error", reject);
    child.on("close", (code) =>
      code === 0 ? resolve(out) : reject(Object.assign(new Error(`${command} ended with ${code}`), { out })),
    );
  });
}

/** Installs npm packages when the lock file is newer than what is there. Needs nothing but npm. */
export async function ensureNodePackages(root) {
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "pnpm-lock.yaml")))
    .digest("hex");
  const mark = join(root, "node_modules", ".cobble-lock");
  if (existsSync(mark) && readFileSync(mark, "utf8") === lock) return;
  say("installing npm packages (a minute on a fresh machine)");
  try {
    await runQuiet("npm", ["exec", "--yes", PNPM, "--", "install", "--frozen-lockfile"], {
      cwd: root,
      env: { ...process.env, CI: "true" },
    });
  } catch (e) {
    throw new Trouble(
      `The npm packages could not be installed. The last lines were:\n${String(e.out ?? e)
        .trim()
        .split("\n")
        .slice(-8)
        .join("\n")}`,
      "Check that the npm registry can be reached, then run the command again.",
    );
  }
  writeFileSync(mark, lock);
}

const has = (path) => existsSync(path);
export const POSTGRES_BIN = "/usr/lib/postgresql/15/bin";
export const CHROMIUM = "/usr/bin/chromium";

/** Installs Debian packages that are missing, as root or by sudo. */
export async function ensureDebianPackages(wanted) {
  const missing = wanted.filter((w) => !has(w.file)).map((w) => w.package);
  if (missing.length === 0) return;
  say(`installing ${missing.join(", ")} from Debian's packages`);
  const root = process.getuid?.() === 0;
  if (!root && spawnSync("sudo", ["-n", "true"]).status !== 0)
    throw new Trouble(
      `${missing.join(" and ")} ${missing.length > 1 ? "are" : "is"} missing, and this user may not install packages.`,
      `Have somebody run: apt-get update && apt-get install -y ${missing.join(" ")}`,
    );
  const [cmd, pre] = root ? ["apt-get", []] : ["sudo", ["-n", "apt-get"]];
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  try {
    await runQuiet(cmd, [...pre, "update", "-qq"], { env });
    await runQuiet(cmd, [...pre, "install", "-y", "-qq", "--no-install-recommends", ...missing], { env });
  } catch (e) {
    throw new Trouble(
      `Debian's packages could not be installed. The last lines were:\n${String(e.out ?? e)
        .trim()
        .split("\n")
        .slice(-6)
        .join("\n")}`,
      `Install them by hand: apt-get install -y ${missing.join(" ")}`,
    );
  }
}
export const POSTGRES = { package: "postgresql-15", file: `${POSTGRES_BIN}/postgres` };
export const IMAP = { package: "dovecot-imapd", file: "/usr/sbin/dovecot" };
/** The office program that makes PDFs, what it is spoken to through, and fonts as wide as those of common documents. */
export const OFFICE = [
  { package: "libreoffice-writer-nogui", file: "/usr/lib/libreoffice/program/libswlo.so" },
  { package: "python3-uno", file: "/usr/lib/libreoffice/program/libpyuno.so" },
  { package: "fonts-crosextra-carlito", file: "/usr/share/fonts/truetype/crosextra/Carlito-Regular.ttf" },
  { package: "fonts-crosextra-caladea", file: "/usr/share/fonts/truetype/crosextra/Caladea-Regular.ttf" },
  { package: "fonts-liberation", file: "/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf" },
];
export const BROWSER = { package: "chromium", file: CHROMIUM };

export function ensureFolder(path) {
  try {
    mkdirSync(path, { recursive: true });
  } catch (e) {
    throw new Trouble(
      `The folder ${path} cannot be made (${e.code}).`,
      "Run the command in a copy of the project that you may write to.",
    );
  }
}
