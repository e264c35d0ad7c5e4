import { expect, test } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { createServer, connect, type Server, type Socket } from "node:net";
import { accessible, be, pick } from "./people";

/** A web process of its own whose way to the database can be cut. */
let web: ChildProcess;
let way: Server;
let base = "";
let wayPort = 0;
const sockets = new Set<Socket>();

function open(port: number): Promise<Server> {
  const { hostname, port: theirs } = new URL(process.env["DATABASE_URL"]!);
  const server = createServer((socket) => {
    const there = connect(Number(theirs), hostname);
    for (const s of [socket, there]) {
      sockets.add(s);
      s.on("close", () => sockets.delete(s));
      s.on("error", () => undefined);
    }
    socket.pipe(there).pipe(socket);
    socket.on("close", () => there.destroy());
    there.on("close", () => socket.destroy());
  });
  return new Promise((done) => server.listen(port, "127.0.0.1", () => done(server)));
}
const cut = () =>
  new Promise<void>((done) => {
    way.close(() => done());
    for (const s of sockets) s.destroy();
  });
const restore = async () => void (way = await open(wayPort));

test.beforeAll(async () => {
  way = await open(0);
  wayPort = (way.address() as { port: number }).port;
  const url = new URL(process.env["DATABASE_URL"]!);
  url.hostname = "127.0.0.1";
  url.port = String(wayPort);
  const port = Number(new URL(process.env["BASE_URL"]!).port) + 7;
  base = `http://localhost:${port}`;
  web = spawn(process.execPath, ["dist/src/web/server.cjs"], {
    env: {
      ...process.env,
      DATABASE_URL: url.href,
      PORT: String(port),
      COBBLE_DEMO: "1",
      NODE_ENV: "production",
    },
    stdio: "ignore",
  });
  await expect(async () => expect((await fetch(`${base}/api/health`)).status).toBe(200)).toPass();
});
test.afterAll(async () => {
  web.kill("SIGTERM");
  await cut();
});

test("without its database it says so, loses nothing that is typed, and is well again by itself", async ({
  browser,
}) => {
  const page = await (await browser.newContext({ baseURL: base })).newPage();
  await be(page, "piet.hanlon", "/ask/supplies");
  await page.getByLabel(/^Project/).fill("Guild banners");
  await page.getByRole("button", { name: "Add a line" }).first().click();
  await pick(page, /^Item, line 1/, "Nitrile");
  await page.getByLabel("Quantity, line 1").fill("2");
  const other = await page.context().newPage();
  await cut();

  // Sending says what is the matter, and the form stays as it was.
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page.getByText(/could not be reached|cannot be reached/)).toBeVisible();
  await expect(page.getByLabel(/^Project/)).toHaveValue("Guild banners");
  await expect(page.getByLabel("Quantity, line 1")).toHaveValue("2");

  // A page is a sentence and not an error of ours; programs get the same.
  await expect(async () => {
    const answer = await other.goto("/desk");
    expect(answer!.status()).toBe(503);
  }).toPass();
  await expect(other.getByRole("heading", { name: "Not just now" })).toBeVisible();
  await expect(other.getByRole("status")).toContainText("cannot reach its database just now");
  await accessible(other);
  const api = await fetch(`${base}/api/v1/tasks`, {
    headers: { authorization: `Bearer cst_${"a".repeat(32)}` },
  });
  expect([api.status, api.headers.get("retry-after")]).toEqual([503, "5"]);
  expect(await api.json()).toMatchObject({ code: "unavailable" });
  const health = await fetch(`${base}/api/health`);
  expect([health.status, await health.json()]).toMatchObject([503, { ok: false, why: "unreachable" }]);

  await restore();
  await expect(other.getByRole("heading", { name: "Desk" })).toBeVisible({ timeout: 60_000 });
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/\/requests\/SUP-/);
});
