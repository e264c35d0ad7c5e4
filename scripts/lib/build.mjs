import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { runQuiet } from "./packages.mjs";
import { say, Trouble } from "./say.mjs";

/** A fingerprint of all that goes into the build, by content. */
function fingerprint(root) {
  const hash = createHash("sha256");
  const visit = (path) => {
    for (const name of readdirSync(path).sort()) {
      const full = join(path, name);
      if (statSync(full).isDirectory()) visit(full);
      else if (!/\.test\.tsx?$/.test(name)) hash.update(full).update(readFileSync(full));
    }
  };
  for (const folder of ["src", "demo", "stand-ins"]) visit(join(root, folder));
  for (const file of [
    "package.json",
    "pnpm-lock.yaml",
    "next.config.ts",
    "tsconfig.json",
    "postcss.config.mjs",
  ])
    hash.update(readFileSync(join(root, file)));
  return hash.digest("hex");
}

/** Bundles the programs: web server, worker, seed. */
export async function buildPrograms(root) {
  await runQuiet(
    join(root, "node_modules/.bin/esbuild"),
    [
      "src/web/server.ts",
      "src/worker/main.ts",
      "src/admin/main.ts",
      "src/services/thinking/thread.ts",
      "src/services/printing/thread.ts",
      "src/services/documents/thread.ts",
      "demo/main.ts",
      "stand-ins/post/main.ts",
      "stand-ins/chat/main.ts",
      "stand-ins/shelf/main.ts",
      "stand-ins/print-room/main.ts",
      "--bundle",
      "--platform=node",
      "--target=node20",
      "--format=cjs",
      "--packages=external",
      "--outdir=dist",
      "--out-extension:.js=.cjs",
      "--outbase=.",
    ],
    { cwd: root },
  );
}

/** Builds web, worker and seed when sources changed since the last build. */
export async function ensureBuild(root) {
  const mark = join(root, "dist", "built");
  const now = fingerprint(root);
  if (existsSync(mark) && readFileSync(mark, "utf8") === now && existsSync(join(root, ".next/BUILD_ID")))
    return;
  say("building (half a minute)");
  try {
    await buildPrograms(root);
    await runQuiet(join(root, "node_modules/.bin/next"), ["build"], {
      cwd: root,
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", NODE_ENV: "production", DATABASE_URL: "" },
    });
  } catch (e) {
    throw new Trouble(
      `The build failed:\n${String(e.out ?? e)
        .trim()
        .split("\n")
        .slice(-25)
        .join("\n")}`,
      "If you changed sources, npm test says more; otherwise remove .next and try again.",
    );
  }
  writeFileSync(mark, now);
}
