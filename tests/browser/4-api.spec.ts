import { expect, test, type APIRequestContext } from "@playwright/test";
import { accessible, be } from "./people";
import { day } from "../day";

const json = async (r: { json(): Promise<unknown> }) => (await r.json()) as Record<string, unknown>;

test("another program does the whole round by its key", async ({ page, playwright, baseURL }) => {
  await be(page, "tobias.marrin", "/office/programs");
  await accessible(page);
  // Everybody makes their own.
  const makeKey = async (acts: string) => {
    await be(page, acts, "/office/programs");
    await page.getByLabel("What it is for").fill(`test for ${acts}`);
    await page.getByRole("button", { name: "Make a key" }).click();
    const said = page.locator("code");
    await expect(said).toBeVisible();
    await expect(page.getByRole("row", { name: new RegExp(`test for ${acts}`) })).toBeVisible();
    return (await said.textContent())!;
  };
  const as = async (key: string): Promise<APIRequestContext> =>
    playwright.request.newContext({
      baseURL: baseURL!,
      extraHTTPHeaders: { authorization: `Bearer ${key}` },
    });
  const piet = await as(await makeKey("piet.hanlon"));
  const sorcha = await as(await makeKey("sorcha.lind"));
  const tobias = await as(await makeKey("tobias.marrin"));

  expect((await json(await piet.get("/api/v1/processes")))["processes"]).toContainEqual(
    expect.objectContaining({ key: "supplies" }),
  );
  const prices = (await json(await piet.get("/api/v1/registers/price_list/records?search=magnifier")))[
    "records"
  ] as { id: string; price: string }[];
  const bad = await piet.post("/api/v1/processes/supplies/requests", {
    data: { data: { project: "X", items: [{ "#": "1", item: prices[0]!.id, quantity: "many" }] } },
  });
  expect(bad.status()).toBe(422);
  expect(bad.headers()["content-type"]).toContain("application/problem+json");
  expect(await json(bad)).toMatchObject({
    code: "form",
    problems: [{ path: "items/1/quantity", code: "not-a-number" }],
  });
  const order = {
    data: {
      data: {
        project: "Lamps",
        reason: "Old ones broke",
        items: [{ "#": "1", item: prices[0]!.id, quantity: "5" }],
      },
    },
    headers: { "idempotency-key": "lamps-1" },
  };
  const first = await json(await piet.post("/api/v1/processes/supplies/requests", order));
  const again = await json(await piet.post("/api/v1/processes/supplies/requests", order));
  expect(again).toEqual(first);
  const number = first["number"] as string;

  const tasks = (await json(await sorcha.get("/api/v1/tasks")))["tasks"] as {
    request: string;
    task: string;
  }[];
  const task = tasks.find((t) => t.request === number)!;
  const shown = await json(await sorcha.get(`/api/v1/requests/${number}/tasks/${task.task}`));
  expect(shown["answers"]).toContainEqual({ id: "decline", label: "Decline", needsNote: true });
  const { seen } = shown;
  expect(
    (
      await piet.post(`/api/v1/requests/${number}/tasks/${task.task}/answer`, {
        data: { answer: "approve", seen },
      })
    ).status(),
  ).toBe(409);
  expect(
    (
      await sorcha.post(`/api/v1/requests/${number}/tasks/${task.task}/answer`, {
        data: { answer: "decline", seen },
      })
    ).status(),
  ).toBe(422);
  expect(
    (
      await sorcha.post(`/api/v1/requests/${number}/tasks/${task.task}/answer`, {
        data: { answer: "approve", seen },
      })
    ).ok(),
  ).toBe(true);
  expect(await json(await piet.get(`/api/v1/requests/${number}`))).toMatchObject({
    status: "finished",
    result: "approved",
  });

  expect((await piet.get("/api/v1/processes/supplies/draft")).status()).toBe(404);
  const draft = await json(await tobias.get("/api/v1/processes/supplies/draft"));
  expect((await tobias.put("/api/v1/processes/supplies/draft", { data: draft })).ok()).toBe(true);
  expect((await tobias.put("/api/v1/processes/supplies/draft", { data: draft })).status()).toBe(409);
  expect(await json(await tobias.get("/api/v1/processes/supplies/problems"))).toHaveProperty("problems");
});

test("a service gets an account and a key, asks in its own name, and stops when it is closed", async ({
  page,
  playwright,
  baseURL,
}) => {
  await be(page, "tobias.marrin", "/office/programs");
  await expect(page.getByText("No services yet.")).toBeVisible();
  await page.getByLabel("Name of the service").fill("Night orders");
  await page.getByLabel("What it does").fill("Orders what runs low");
  await page.getByLabel("What it does").press("Enter");
  const row = page.getByRole("table", { name: "Services" }).getByRole("row", { name: /Night orders/ });
  await expect(row).toContainText("open");
  await page.getByLabel("Name of the service").fill("night ORDERS");
  await page.getByRole("button", { name: "Add a service" }).click();
  await expect(page.getByText('There is a service called "night ORDERS" already.')).toBeVisible();
  await expect(page.getByLabel("Name of the service")).toHaveValue("night ORDERS");
  await page.getByLabel("What it is for").fill("the nightly run");
  await page.getByLabel("Acts as").selectOption({ label: "Night orders" });
  await page.getByRole("button", { name: "Make a key" }).click();
  const key = (await page.locator("code").textContent())!;
  await accessible(page);
  const program = await playwright.request.newContext({
    baseURL: baseURL!,
    extraHTTPHeaders: { authorization: `Bearer ${key}` },
  });
  const made = await json(
    await program.post("/api/v1/processes/store-key/requests", {
      data: {
        data: {
          store: "17",
          from: day(30),
          until: day(31),
          purpose: "Stock count",
          trained: true,
          assessed: true,
        },
      },
    }),
  );
  const number = made["number"] as string;
  expect(await json(await program.get(`/api/v1/requests/${number}`))).toMatchObject({
    requester: "service.night-orders",
    status: "under way",
  });
  await page.goto(`/requests/${number}`);
  await expect(page.getByRole("main")).toContainText("Night orders");
  // For somebody who does not work here.
  const ada = { name: "Ada Byrne", email: "Ada@Byrne.example" };
  const theirs = await program.post("/api/v1/processes/store-key/requests", {
    data: {
      data: { store: "17", from: day(40), until: day(41), purpose: "Viewing", trained: true, assessed: true },
      for: ada,
    },
  });
  const other = (await json(theirs))["number"] as string;
  expect(await json(await program.get(`/api/v1/requests/${other}`))).toMatchObject({
    requester: "service.night-orders",
    asker: { kind: "outside", name: "Ada Byrne", email: "ada@byrne.example" },
  });
  await page.goto(`/requests/${other}`);
  await expect(page.getByRole("main")).toContainText(
    "asked by Ada Byrne, ada@byrne.example, outside the office, through Night orders",
  );
  await accessible(page);
  await page.goto("/office/programs");
  await row.getByRole("button", { name: "Close Night orders" }).click();
  await expect(row).toContainText("closed");
  expect((await program.get(`/api/v1/requests/${number}`)).status()).toBe(401);
});

test("calls without a key, with a cookie only, or from another site change nothing", async ({
  page,
  playwright,
  baseURL,
}) => {
  const nobody = await playwright.request.newContext({ baseURL: baseURL! });
  expect((await nobody.get("/api/v1/tasks")).status()).toBe(401);
  await be(page, "piet.hanlon");
  expect((await page.request.get("/api/v1/tasks")).status()).toBe(401);
  expect(
    (
      await page.request.post("/api/v1/processes/supplies/requests", {
        data: {},
        headers: { origin: "http://elsewhere.example" },
      })
    ).status(),
  ).toBe(401);
  expect(
    (
      await page.request.post("/desk", { data: {}, headers: { origin: "http://elsewhere.example" } })
    ).status(),
  ).toBe(403);
  const head = await page.request.get("/desk");
  expect(head.headers()["content-security-policy"]).toMatch(/script-src 'self' 'nonce-/);
  expect(head.headers()["x-content-type-options"]).toBe("nosniff");
  const cookies = await page.context().cookies();
  expect(cookies.find((c) => c.name === "cobble_session")).toMatchObject({ httpOnly: true, sameSite: "Lax" });
});

test("the OpenAPI document describes every route there is", async ({ request }) => {
  const doc = (await json(await request.get("/api/v1/openapi.json"))) as {
    openapi: string;
    paths: Record<string, Record<string, { operationId: string }>>;
  };
  expect(doc.openapi).toBe("3.1.0");
  const ids = Object.values(doc.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids).toEqual(
    expect.arrayContaining([
      "listProcesses",
      "startRequest",
      "readRequest",
      "listTasks",
      "answerTask",
      "readDraft",
      "putDraft",
      "listProblems",
      "release",
      "listRecords",
    ]),
  );
});
