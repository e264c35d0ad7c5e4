import { createServer, request as call, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { makeKey, requestView, startRequest } from "@/services";
import { isApi, listenerApi, MAX_BODY } from "@/web/api/listener";
import { OPERATIONS } from "@/web/api/operations";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let server: Server;
let port = 0;
let piet = "";
let sorcha = "";
beforeAll(async () => {
  world = await openWorld();
  server = createServer((q, r) => void listenerApi(q, r)).listen(0, "127.0.0.1");
  await new Promise((r) => server.once("listening", r));
  port = (server.address() as AddressInfo).port;
  piet = value(await makeKey(await person("piet.hanlon"), "piet.hanlon", "test")).key;
  sorcha = value(await makeKey(await person("sorcha.lind"), "sorcha.lind", "test")).key;
});
afterAll(async () => {
  await new Promise((r) => server.close(r));
  await world.close();
});

interface Answer {
  status: number;
  type: string;
  headers: Record<string, unknown>;
  body: Record<string, unknown>;
  text: string;
  bytes: Buffer;
}
/** Straight HTTP: a body goes as it is, whatever it holds. */
function ask(
  method: string,
  path: string,
  o: { key?: string; body?: string | Buffer; headers?: Record<string, string> } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const q = call(
      {
        host: "127.0.0.1",
        port,
        method,
        path: `/api/v1${path}`,
        headers: { ...(o.key ? { authorization: `Bearer ${o.key}` } : {}), ...o.headers },
      },
      (r) => {
        const parts: Buffer[] = [];
        r.on("data", (d: Buffer) => parts.push(d)).on("end", () => {
          const bytes = Buffer.concat(parts);
          const text = bytes.toString();
          resolve({
            status: r.statusCode!,
            type: r.headers["content-type"] ?? "",
            headers: r.headers,
            text,
            bytes,
            body: text.startsWith("{") ? (JSON.parse(text) as Record<string, unknown>) : {},
          });
        });
      },
    );
    q.on("error", reject);
    q.end(o.body);
  });
}
const post = (path: string, body: unknown, key = piet, headers: Record<string, string> = {}) =>
  ask("POST", path, { key, body: JSON.stringify(body), headers });

it("a file goes in as bytes, and comes out as they were", async () => {
  const bytes = Buffer.from([0, 255, 10, 13, 128, 1]);
  const added = await ask("POST", "/files?name=%C3%9Cbersicht%20%22neu%22.pdf", { key: piet, body: bytes });
  expect(added).toMatchObject({
    status: 201,
    body: { name: 'Übersicht "neu".pdf', size: 6, type: "application/pdf" },
  });
  const n = (
    await post("/processes/supplies/requests", { data: { ...orderOf(80), quote: added.body["id"] } })
  ).body["number"];
  expect((await ask("GET", `/requests/${n}`, { key: piet })).body["data"]).toMatchObject({
    quote: added.body["id"],
  });
  const read = await ask("GET", `/files/${added.body["id"]}`, { key: sorcha });
  expect(read.status).toBe(200);
  expect(read.bytes.equals(bytes)).toBe(true);
  expect(read.headers).toMatchObject({
    "content-type": "application/pdf",
    "content-length": "6",
    "x-content-type-options": "nosniff",
    "content-security-policy": "default-src 'none'; sandbox",
    "content-disposition": `attachment; filename="_bersicht _neu_.pdf"; filename*=UTF-8''%C3%9Cbersicht%20%22neu%22.pdf`,
  });
  expect(await ask("GET", "/files/none", { key: piet })).toMatchObject({
    status: 404,
    body: { code: "not-found" },
  });
  expect(await ask("POST", "/files", { key: piet, body: bytes })).toMatchObject({
    status: 422,
    body: { code: "invalid" },
  });
  expect(await ask("POST", "/files?name=a.pdf", { key: piet })).toMatchObject({
    status: 422,
    body: { detail: '"a.pdf" is empty.' },
  });
});

describe("what is refused, as problem details", () => {
  it.each([
    ["no key", "GET", "/tasks", {}, 401, "no-key"],
    ["a key nobody made", "GET", "/tasks", { key: `cst_${"x".repeat(32)}` }, 401, "no-key"],
    ["no such place", "GET", "/nothing/here", { mine: true }, 404, "no-route"],
    ["a method it does not take", "DELETE", "/tasks", { mine: true }, 405, "no-method"],
    [
      "no such process",
      "POST",
      "/processes/nothing/requests",
      { mine: true, body: '{"data":{}}' },
      404,
      "not-found",
    ],
    [
      "a body that is no JSON",
      "POST",
      "/processes/supplies/requests",
      { mine: true, body: "{data:" },
      400,
      "not-json",
    ],
    [
      "a body of another shape",
      "POST",
      "/processes/supplies/requests",
      { mine: true, body: '{"data":5}' },
      422,
      "invalid",
    ],
    ["a body that is missing", "POST", "/processes/supplies/requests", { mine: true }, 422, "invalid"],
    ["a page size beyond the limit", "GET", "/requests?limit=5000", { mine: true }, 422, "invalid"],
    ["an address that cannot be read", "GET", "/requests/%E0%A4%A", { mine: true }, 400, "bad-address"],
    ["somebody else's draft", "GET", "/processes/supplies/draft", { mine: true }, 404, "not-found"],
  ] as [string, string, string, { key?: string; mine?: true; body?: string }, number, string][])(
    "%s",
    async (_, method, path, o, status, code) => {
      const key = o.key ?? (o.mine ? piet : undefined);
      const r = await ask(method, path, {
        ...(key ? { key } : {}),
        ...(o.body !== undefined ? { body: o.body } : {}),
      });
      expect([r.status, r.type, r.body["code"]]).toEqual([status, "application/problem+json", code]);
      expect(r.body).toMatchObject({ type: "about:blank", status });
      expect(String(r.body["detail"]).length).toBeGreaterThan(15);
      if (status === 401) expect(r.headers["www-authenticate"]).toBe("Bearer");
    },
  );

  it("a body beyond the limit is not read to its end", async () => {
    const r = await ask("POST", "/processes/supplies/requests", {
      key: piet,
      body: Buffer.alloc(MAX_BODY + 10, 32),
    }).catch((e: Error) => e);
    // The answer comes while the rest is still being sent; either it arrives, or the connection is gone.
    if (r instanceof Error) expect(r.message).toMatch(/EPIPE|ECONNRESET|socket hang up/);
    else expect([r.status, r.body["code"]]).toEqual([413, "too-large"]);
    expect((await ask("GET", "/processes", { key: piet })).status).toBe(200);
  });

  it("form mistakes name their fields in words", async () => {
    const r = await post("/processes/supplies/requests", {
      data: { ...orderOf(1), project: "", items: [{ "#": "1", item: "11", quantity: "many" }] },
    });
    expect(r.status).toBe(422);
    expect(r.body["problems"]).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ path: "project", code: "needed" }),
        expect.objectContaining({
          path: "items/1/quantity",
          code: "not-a-number",
          message: expect.stringContaining("many") as string,
        }),
      ]),
    );
  });
});

describe("a round over HTTP", () => {
  let number = "";
  it("a start with the same key makes one request", async () => {
    const [a, b] = await Promise.all(
      [1, 2].map(() =>
        post("/processes/supplies/requests", { data: orderOf(80) }, piet, { "idempotency-key": "one" }),
      ),
    );
    expect([a!.status, b!.status]).toEqual([201, 201]);
    expect(a!.body).toEqual(b!.body);
    number = a!.body["number"] as string;
    expect(
      (
        await post("/processes/supplies/requests", { data: orderOf(80) }, sorcha, {
          "idempotency-key": "one",
        })
      ).body["number"],
    ).not.toBe(number);
  });
  it("its events say by which key they came, and the trail names it to people", async () => {
    const rows = await sql<{ via: string | null; by_person: string | null }>(
      "select e.via, e.by_person from request_event e join request r on r.id = e.request_id where r.number = $1",
      [number],
    );
    for (const r of rows)
      expect(r.via).toEqual(r.by_person === null ? null : expect.stringMatching(/^key \d+$/));
    expect(rows.some((r) => r.via !== null)).toBe(true);
    const view = value(await requestView(await person("piet.hanlon"), number));
    expect(view.trail.find((l) => l.by === "piet.hanlon")!.key).toBe("test");
    // Somebody signed in acts by a session, and the trail says nothing of it.
    const own = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(80))).number;
    const [event] = await sql<{ via: string }>(
      "select e.via from request_event e join request r on r.id = e.request_id where r.number = $1 and e.by_person = 'piet.hanlon' limit 1",
      [own],
    );
    expect(event!.via).toBe("session 0");
    const mine = value(await requestView(await person("piet.hanlon"), own));
    expect(mine.trail.every((l) => l.key === null)).toBe(true);
  });
  it("a key used for something else, or too long, is refused and makes nothing", async () => {
    const key = { "idempotency-key": "one" };
    // The same values in another order are the same.
    const { items, ...rest } = orderOf(80);
    const same = await post("/processes/supplies/requests", { data: { items, ...rest } }, piet, key);
    expect(same.body["number"]).toBe(number);
    const other = await post("/processes/supplies/requests", { data: orderOf(81) }, piet, key);
    expect([other.status, other.body["code"]]).toEqual([422, "already-sent"]);
    expect(other.body["detail"]).toContain(number);
    const elsewhere = await post("/processes/store-key/requests", { data: KEY }, piet, key);
    expect(elsewhere.body["code"]).toBe("already-sent");
    const long = await post("/processes/supplies/requests", { data: orderOf(80) }, piet, {
      "idempotency-key": "x".repeat(201),
    });
    expect([long.status, long.body["code"]]).toEqual([422, "invalid"]);
  });
  it("its decider sees the task, answers, and a second answer is told what happened", async () => {
    const tasks = (await ask("GET", "/tasks", { key: sorcha })).body["tasks"] as {
      request: string;
      task: string;
    }[];
    const { task } = tasks.find((t) => t.request === number)!;
    const { seen } = (await ask("GET", `/requests/${number}/tasks/${task}`, { key: sorcha })).body;
    const answer = (body: object) =>
      post(`/requests/${number}/tasks/${task}/answer`, { seen, ...body }, sorcha);
    expect((await answer({ answer: "maybe" })).status).toBe(422);
    // An answer says what its person saw.
    expect((await answer({ answer: "approve", seen: undefined })).status).toBe(422);
    expect((await answer({ answer: "approve", data: {} })).status).toBe(200);
    const again = await answer({ answer: "approve" });
    expect([again.status, again.type]).toEqual([409, "application/problem+json"]);
    expect(again.body["detail"]).toMatch(/[.]$/);
  });
  it("is read with its trail; HEAD and caching are as they should be", async () => {
    const r = await ask("GET", `/requests/${number}`, { key: piet });
    expect(r.body).toMatchObject({ number, process: "supplies", requester: "piet.hanlon" });
    expect((r.body["waiting"] as { people: string[] }[]).flatMap((w) => w.people)).not.toContain(
      "Sorcha Lind",
    );
    expect((r.body["trail"] as unknown[]).length).toBeGreaterThan(2);
    expect(r.headers).toMatchObject({ "cache-control": "no-store", "x-content-type-options": "nosniff" });
    expect(
      (
        await ask("GET", `/requests/${number}`, {
          key: value(await makeKey(await person("dov.merrick"), "dov.merrick", "t")).key,
        })
      ).status,
    ).toBe(404);
  });
  it("records are found by a formula; what cannot be searched for is named", async () => {
    const where = (f: string) =>
      ask("GET", `/registers/objects/records?limit=500&where=${encodeURIComponent(f)}`, { key: piet });
    const rich = await where('Insured value >= 5000 and Status = "in store"');
    const records = rich.body["records"] as Record<string, string>[];
    expect(records.length).toBeGreaterThan(0);
    for (const r of records)
      expect([Number(r["insured_value"]) >= 5000, r["status"]]).toEqual([true, "in store"]);
    const poor = await where('not(Insured value >= 5000 and Status = "in store")');
    const all = await ask("GET", "/registers/objects/records?limit=1", { key: piet });
    // Nothing is lost between a condition and its opposite but rows where it is unknown.
    expect((rich.body["total"] as number) + (poor.body["total"] as number)).toBeLessThanOrEqual(
      all.body["total"] as number,
    );
    const refused = await where("sqrt(Insured value) > 3");
    expect([refused.status, refused.body["detail"]]).toEqual([
      422,
      expect.stringContaining('"sqrt(Insured value)" cannot be searched for'),
    ]);
    expect((await where("Insured vlaue > 3")).body["detail"]).toContain('Did you mean "Insured value"?');
    expect((await where('Next check < today() + @"P1Y"')).status).toBe(200);
    expect(
      (
        await ask(
          "GET",
          `/registers/loans/records?where=${encodeURIComponent('Borrower.Country = "Ireland"')}`,
          { key: piet },
        )
      ).status,
    ).toBe(200);
  });
  it("the description lists every operation, and asks for no key", async () => {
    const r = await ask("GET", "/openapi.json");
    const paths = r.body["paths"] as Record<string, Record<string, unknown>>;
    expect(OPERATIONS.every((o) => paths[o.path]?.[o.method.toLowerCase()])).toBe(true);
  });
  it("the key request keeps its own data apart", async () => {
    const r = await post("/processes/store-key/requests", { data: { ...KEY, store: "11" } });
    expect(r.status).toBe(201);
    const dov = value(await makeKey(await person("dov.merrick"), "dov.merrick", "t")).key;
    expect((await ask("GET", `/requests/${r.body["number"] as string}`, { key: dov })).status).toBe(404);
  });
});

it("only its own addresses are the API's", () => {
  expect(["/api/v1", "/api/v1/tasks", "/api/v1?x"].map(isApi)).toEqual([true, true, true]);
  expect(["/api/v10", "/api/live", "/", "/desk?next=/api/v1"].map(isApi)).toEqual([
    false,
    false,
    false,
    false,
  ]);
});

describe("before anybody is known", () => {
  it("nothing is read of what a stranger sends, and strangers are slowed down", async () => {
    // A body that never ends: an answer comes all the same.
    const answer = await new Promise<number>((resolve, reject) => {
      const q = call(
        {
          host: "127.0.0.1",
          port,
          method: "POST",
          path: "/api/v1/files?name=a.txt",
          headers: { authorization: `Bearer cst_${"y".repeat(32)}`, "content-length": "20000000" },
        },
        (r) => {
          resolve(r.statusCode!);
          r.resume();
          q.destroy();
        },
      );
      q.on("error", reject);
      q.write("a");
    });
    expect(answer).toBe(401);
    const answers = await Promise.all(
      Array.from({ length: 60 }, () => ask("GET", "/tasks", { key: `cst_${"z".repeat(32)}` })),
    );
    const slowed = answers.filter((r) => r.status === 429);
    expect(slowed.length).toBeGreaterThan(20);
    expect(Number(slowed[0]!.headers["retry-after"])).toBeGreaterThan(0);
    // Who has a key is not held up by them.
    expect((await ask("GET", "/tasks", { key: piet })).status).toBe(200);
  });
  it("a place and a way it does not take are told before a body is read", async () => {
    const r = await ask("POST", "/nothing", {
      key: piet,
      headers: { "content-length": "9" },
      body: "a".repeat(9),
    });
    expect(r.status).toBe(404);
  });
  it("one key has so many calls a minute, then is told when to go on; others go on", async () => {
    const { key } = value(await makeKey(await person("dov.merrick"), "dov.merrick", "busy"));
    const statuses: number[] = [];
    for (let i = 0; i < 12; i++)
      statuses.push(
        ...(await Promise.all(Array.from({ length: 30 }, () => ask("GET", "/nothing", { key })))).map(
          (r) => r.status,
        ),
      );
    expect(statuses.filter((s) => s === 404).length).toBeGreaterThanOrEqual(300);
    expect(statuses).toContain(429);
    expect((await ask("GET", "/tasks", { key: piet })).status).toBe(200);
  });
});
