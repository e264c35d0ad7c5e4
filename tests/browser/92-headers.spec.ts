import { spawn, type ChildProcess } from "node:child_process";
import { get, type IncomingMessage } from "node:http";
import { createServer } from "node:net";
import type { AddressInfo } from "node:net";
import { expect, test } from "@playwright/test";
import { be } from "./people";

/** A web process as an organisation has it: with an address of its own, behind a proxy that does TLS. */
const HERE = "https://requests.quillhaven.example";
let web: ChildProcess;
let base = "";

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const s = createServer().listen(0, "127.0.0.1", () => {
      const { port } = s.address() as AddressInfo;
      s.close(() => resolve(port));
    });
  });

test.beforeAll(async () => {
  const port = await freePort();
  base = `http://127.0.0.1:${port}`;
  web = spawn(process.execPath, ["dist/src/web/server.cjs"], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      COBBLE_DEMO: "",
      PORT: String(port),
      PUBLIC_URL: HERE,
      SECRET_KEY: "k".repeat(40),
      CALLS_PER_MINUTE: "600",
    },
    stdio: "ignore",
  });
  await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass({
    timeout: 30_000,
  });
});
test.afterAll(() => void web.kill("SIGKILL"));

test("every answer says how it may be used, and that it is to come safely", async () => {
  const html = await (await fetch(`${base}/sign-in`)).text();
  const script = /\/_next\/static\/[^"]+\.js/.exec(html)![0];
  for (const path of [
    "/sign-in",
    "/",
    "/icon.svg",
    "/api/health",
    "/api/live",
    "/api/files/x",
    "/api/log",
    "/api/v1/tasks",
    "/api/v1/openapi.json",
    "/nowhere",
    script,
  ]) {
    const r = await fetch(`${base}${path}`, { redirect: "manual" });
    expect([path, r.headers.get("strict-transport-security")]).toEqual([
      path,
      expect.stringContaining("max-age=31536000"),
    ]);
    expect([path, r.headers.get("content-security-policy")]).toEqual([
      path,
      expect.stringContaining("default-src"),
    ]);
    expect([path, r.headers.get("x-content-type-options")]).toEqual([path, "nosniff"]);
  }
});

test("no demo here: nobody is offered to be picked, and nobody becomes somebody", async () => {
  const html = await (await fetch(`${base}/sign-in`)).text();
  expect(html).not.toContain("Or pick a person");
  expect(html).not.toContain("Lucia Penrose");
});

test("changes come from its own address alone, whatever else is sent along", async () => {
  const post = (headers: Record<string, string>) =>
    fetch(`${base}/sign-in`, {
      method: "POST",
      headers: { "content-type": "text/plain", ...headers },
      body: "x",
    }).then((r) => r.status);
  expect(await post({ origin: "https://elsewhere.example" })).toBe(403);
  expect(await post({})).toBe(403);
  expect(await post({ origin: base })).toBe(403);
  expect(await post({ origin: "https://elsewhere.example", authorization: "Bearer cst_x" })).toBe(403);
  expect(await post({ origin: HERE })).not.toBe(403);
});

test("what is longer than any page takes, and more than is taken at once, is refused", async () => {
  const long = await fetch(`${base}/sign-in`, {
    method: "POST",
    headers: { origin: HERE },
    body: "x".repeat(5_000_001),
  }).then(
    (r) => r.status,
    () => 413,
  );
  expect(long).toBe(413);
  // So many that a slow machine, which gets some room again meanwhile, has not enough of it either.
  const all = await Promise.all(
    Array.from({ length: 450 }, () => fetch(`${base}/sign-in`, { method: "HEAD" })),
  );
  const slowed = all.filter((r) => r.status === 429);
  expect(slowed.length).toBeGreaterThan(20);
  expect(Number(slowed[0]!.headers.get("retry-after"))).toBeGreaterThan(0);
  // What never changes is not counted.
  expect((await fetch(`${base}/icon.svg`)).status).toBe(200);
});

test("one person's open pages are counted, and another's are not in their way", async ({ page, baseURL }) => {
  const cookieOf = async (who: string) => {
    await be(page, who);
    // Its own live page lets go.
    await page.goto("about:blank");
    const all = await page.context().cookies(baseURL!);
    return all.map((c) => `${c.name}=${c.value}`).join("; ");
  };
  const open = (cookie: string): Promise<IncomingMessage> =>
    new Promise((resolve, reject) => {
      get(`${baseURL}/api/live?at=/desk`, { headers: { cookie } }, resolve).on("error", reject);
    });
  const piet = await cookieOf("piet.hanlon");
  const dov = await cookieOf("dov.merrick");
  const streams = await Promise.all(Array.from({ length: 30 }, () => open(piet)));
  const refused = streams.filter((s) => s.statusCode === 429);
  expect(refused.length).toBeGreaterThanOrEqual(6);
  const other = await open(dov);
  expect(other.statusCode).toBe(200);
  for (const s of [...streams, other]) s.destroy();
  // Let go, they are free again.
  await expect(async () => {
    const again = await open(piet);
    expect(again.statusCode).toBe(200);
    again.destroy();
  }).toPass({ timeout: 10_000 });
});

test("addresses that mean nothing are answered like any other", async ({ page }) => {
  await be(page, "tobias.marrin");
  for (const path of [
    "/ask?page=1e300",
    "/progress?page=-1",
    "/registers/constructor",
    "/registers/objects?page=1e300",
    "/office/people/constructor",
    "/office/log?before=1e300&kind=%00",
    "/set-password?token=%00",
    "/sign-in?why=%3Cscript%3E",
  ]) {
    const r = await page.goto(path);
    expect([path, r!.status()]).toEqual([path, 200]);
  }
});
