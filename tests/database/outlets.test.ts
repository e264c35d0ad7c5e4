import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Effect } from "@/core/engine";
import type { BringTo } from "@/steps/bring/shape";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  addFile,
  createProcess,
  deliver,
  outletsShown,
  putOutlet,
  releaseDraft,
  removeOutlet,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  tryOutlet,
  type Actor,
} from "@/services";
import { pdf } from "../browser/papers";
import { startPrintRoom } from "../../stand-ins/print-room/printRoom";
import { startShelf } from "../../stand-ins/shelf/shelf";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let office: Actor;
let room: Awaited<ReturnType<typeof startPrintRoom>>;
let shelf: Awaited<ReturnType<typeof startShelf>>;
let folder: string;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [piet, office] = (await Promise.all(["piet.hanlon", "tobias.marrin"].map(person))) as [Actor, Actor];
  folder = mkdtempSync(join(tmpdir(), "outlets-"));
  room = await startPrintRoom({ folder: join(folder, "print"), port: 0, token: "token" });
  shelf = await startShelf({ folder: join(folder, "shelf"), port: 0, account: "a", password: "b" });
});
const NONE = { slow: 0, refuse: 0, loseAfter: 0, twice: 0 };
beforeEach(async () => {
  room.faults.set(NONE);
  shelf.faults.set(NONE);
  value(
    await putOutlet(office, {
      kind: "print room",
      address: `http://127.0.0.1:${room.port}`,
      account: null,
      secret: "token",
    }),
  );
  value(
    await putOutlet(office, {
      kind: "shelf",
      address: `http://127.0.0.1:${shelf.port}/shelf/`,
      account: "a",
      secret: "b",
    }),
  );
});
afterAll(async () => {
  await room.stop();
  await shelf.stop();
  rmSync(folder, { recursive: true, force: true });
  await world.close();
});

let made = 0;
async function released(to: BringTo): Promise<string> {
  const key = `brought-${++made}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Brought ${made}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `BR${made}X`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "papers", name: "Papers", kind: "files" },
      { id: "folder", name: "Folder", kind: "text" },
    ],
    access: {},
    route: [
      { id: "b", name: "Off it goes", kind: "bring", what: "Papers", to } as Step,
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
    ],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
const PRINT: BringTo = { outlet: "print room", copies: "2" };
const SHELF: BringTo = { outlet: "shelf", folder: "{Folder}" };
async function started(key: string, files: readonly (readonly [string, Buffer])[], more: object = {}) {
  const ids: string[] = [];
  for (const [name, bytes] of files) ids.push(value(await addFile(piet, name, bytes)).id);
  return value(await startRequest(piet, key, { papers: ids.join("\n"), ...more } as never)).number;
}
const statusOf = async (number: string) =>
  (await sql<{ status: string }>("select status from request where number = $1", [number]))[0]!.status;
const stuckOf = async (number: string) => value(await requestView(office, number)).stuck;
/** The job of the last request, as a worker gets it. */
async function jobOf(): Promise<{ request: string; effect: Effect }> {
  const jobs = await sql<{ payload: { request: string; effect: Effect } }>(
    `select j.payload from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
     where t.identifier = 'effect' order by j.id desc limit 1`,
  );
  return jobs[0]!.payload;
}
const printed = (name: string) => room.jobs.filter((j) => j.name === name);

it("has a PDF printed, so many copies of it, and the request goes on", async () => {
  const key = await released(PRINT);
  const number = await started(key, [
    ["Año 1.pdf", pdf(["one"])],
    ["Two.pdf", pdf(["two"])],
  ]);
  expect(await statusOf(number)).toBe("under way");
  await workOff();
  expect(await statusOf(number)).toBe("finished");
  expect(printed("Año 1.pdf")).toMatchObject([{ copies: 2, times: 1 }]);
  expect(room.paper(printed("Two.pdf")[0]!).equals(pdf(["two"]))).toBe(true);
  const { trail } = value(await requestView(office, number));
  const jobs = [printed("Año 1.pdf")[0]!.id, printed("Two.pdf")[0]!.id];
  expect(trail.map((l) => l.text)).toContain(`Off it goes: 2 documents brought, jobs ${jobs.join(", ")}`);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("is printed once, however many try at once, and where nobody heard that it was", async () => {
  const key = await released(PRINT);
  await started(key, [["Once.pdf", pdf(["once"])]]);
  const { request, effect } = await jobOf();
  const again = () => deliver(SYSTEM, request, effect);
  await Promise.all([again(), again(), again()]);
  await again();
  expect(printed("Once.pdf")).toHaveLength(1);
  await workOff();
  const lost = await started(key, [
    ["Lost 1.pdf", pdf(["l1"])],
    ["Lost 2.pdf", pdf(["l2"])],
  ]);
  const job = await jobOf();
  room.faults.set({ loseAfter: 1 });
  await expect(deliver(SYSTEM, job.request, job.effect)).rejects.toThrow();
  expect(printed("Lost 1.pdf")).toHaveLength(1);
  expect(await statusOf(lost)).toBe("under way");
  room.faults.set({ loseAfter: 0 });
  await deliver(SYSTEM, job.request, job.effect);
  expect([printed("Lost 1.pdf"), printed("Lost 2.pdf")].map((j) => j.length)).toEqual([1, 1]);
  expect(await statusOf(lost)).toBe("finished");
  await workOff();
});

it("is tried again for a while, then says why it waits, and an owner retries", async () => {
  const key = await released(PRINT);
  const number = await started(key, [["Jam.pdf", pdf(["jam"])]]);
  const { request, effect } = await jobOf();
  room.faults.set({ refuse: 1 });
  await expect(deliver(SYSTEM, request, effect)).rejects.toThrow();
  expect(await stuckOf(number)).toEqual([]);
  const { since } = effect as Extract<Effect, { kind: "bring" }>;
  await deliver(SYSTEM, request, effect, { at: since + 16 * 60_000 } as never);
  const [stuck] = await stuckOf(number);
  expect(stuck!.sentence).toContain("The print room answers 503: The printer is jammed.");
  room.faults.set({ refuse: 0 });
  value(await act(office, number, { type: "retry", token: stuck!.token }));
  await workOff();
  expect(await statusOf(number)).toBe("finished");
  expect(printed("Jam.pdf")).toHaveLength(1);
});

it.each([
  ["what is no PDF", PRINT, "Note.txt", Buffer.from("x"), "takes PDFs"],
  ["a PDF that is none", PRINT, "None.pdf", Buffer.from("x"), "Only PDFs are printed"],
] as const)("stops with the reason for %s", async (_, to, name, bytes, why) => {
  const number = await started(await released(to), [[name, bytes]]);
  await workOff();
  expect((await stuckOf(number))[0]!.sentence).toContain(why);
});

it("stops with the reason where there is nothing, it is not let in, or there is none any more", async () => {
  const key = await released(PRINT);
  const empty = await started(key, []);
  await workOff();
  expect((await stuckOf(empty))[0]!.sentence).toContain("nothing to be brought");
  const wrong = await started(key, [["A.pdf", pdf(["a"])]]);
  value(
    await putOutlet(office, {
      kind: "print room",
      address: `http://127.0.0.1:${room.port}`,
      account: null,
      secret: "no",
    }),
  );
  await workOff();
  expect((await stuckOf(wrong))[0]!.sentence).toContain("does not let Cobble Step in");
  const gone = await started(key, [["A.pdf", pdf(["a"])]]);
  value(await removeOutlet(office, "print room"));
  await workOff();
  expect((await stuckOf(gone))[0]!.sentence).toContain("there is no print room in Office");
  expect(printed("A.pdf")).toEqual([]);
});

const lying = (...path: string[]) => readdirSync(join(shelf.root, ...path)).sort();

it("stops where what was kept is not what it was, and brings no part of it; a large one goes as it is read", async () => {
  const large = Buffer.concat([pdf(["large"]), Buffer.alloc(3_000_000, "%")]);
  const key = await released(SHELF);
  const number = await started(key, [["Large.pdf", large]], { folder: "Large" });
  await sql("update content_part set bytes = set_byte(bytes, 9, 0) where nth = 2");
  await workOff();
  const [stuck] = await stuckOf(number);
  expect(stuck!.sentence).toContain("npm run files -- check");
  expect(lying("Large")).toEqual([]);
  await sql("update content_part set bytes = set_byte(bytes, 9, 37) where nth = 2");
  value(await act(office, number, { type: "retry", token: stuck!.token }));
  await workOff();
  expect(lying("Large")).toEqual(["Large.pdf"]);
  expect(readFileSync(join(shelf.root, "Large", "Large.pdf")).equals(large)).toBe(true);
});

it("lies on the shelf in its folders, and nothing is written over", async () => {
  const key = await released(SHELF);
  const put = async (text: string, into: string, name = "Note.txt") => {
    const number = await started(key, [[name, Buffer.from(text)]], { folder: into });
    await workOff();
    return number;
  };
  expect(await statusOf(await put("one", "Loans/2026"))).toBe("finished");
  await put("two", "Loans/2026");
  expect(lying("Loans", "2026")).toEqual(["Note (2).txt", "Note.txt"]);
  expect(readFileSync(join(shelf.root, "Loans", "2026", "Note.txt"), "utf8")).toBe("one");
  // The same is there already.
  await put("one", "Loans/2026");
  expect(lying("Loans", "2026")).toHaveLength(2);
  // Nothing leads out of it, nor is any name too strange for it.
  await put("x", "../../etc/..", "..");
  await put("y", "a/./b//c", 'q?"<>|.txt');
  await put("z", "Ünï côde & 100%/#1", "ä #?%.txt");
  expect(lying()).toEqual(["Large", "Loans", "a", "etc", "Ünï côde & 100%"].sort());
  expect(lying("etc")).toEqual(["file"]);
  expect(lying("a", "b", "c")).toEqual(["q-----.txt"]);
  expect(lying("Ünï côde & 100%", "#1")).toEqual(["ä #-%.txt"]);
  const deep = await put("d", Array.from({ length: 11 }, (_, i) => `d${i}`).join("/"));
  expect((await stuckOf(deep))[0]!.sentence).toContain("10 deep");
});

it("lies there once where nobody heard that it was put there", async () => {
  const key = await released(SHELF);
  const number = await started(key, [["Lost.txt", Buffer.from("l")]], { folder: "Lost" });
  const { request, effect } = await jobOf();
  shelf.faults.set({ loseAfter: 1 });
  await expect(deliver(SYSTEM, request, effect)).rejects.toThrow();
  expect(await statusOf(number)).toBe("under way");
  shelf.faults.set({ loseAfter: 0 });
  await deliver(SYSTEM, request, effect);
  expect(await statusOf(number)).toBe("finished");
  expect(lying("Lost")).toEqual(["Lost.txt"]);
  await workOff();
});

it("is set up by the office alone, and what it is entered with goes nowhere else", async () => {
  expect((await outletsShown(piet)).ok).toBe(false);
  const input = { kind: "shelf" as const, address: "https://files.example.org", account: "a", secret: "b" };
  expect((await putOutlet(piet, input)).ok).toBe(false);
  expect((await removeOutlet(piet, "shelf")).ok).toBe(false);
  expect((await tryOutlet(piet, "shelf")).ok).toBe(false);
  const said = async (more: object) => {
    const r = await putOutlet(office, { ...input, ...more });
    return r.ok ? "kept" : JSON.stringify(r.failure);
  };
  expect(await said({ address: "no address" })).toContain("is no address");
  expect(await said({ address: "http://files.example.org" })).toContain("Without encryption");
  expect(await said({ address: "https://a:b@files.example.org" })).toContain("Leave user and password out");
  expect(await said({ secret: null })).toContain("another address or account");
  expect(
    await said({ address: `http://127.0.0.1:${shelf.port}/shelf`, account: "c", secret: null }),
  ).toContain("another address or account");
  expect(await said({ address: `http://127.0.0.1:${shelf.port}/shelf`, secret: null })).toBe("kept");
  expect(JSON.stringify(value(await outletsShown(office)))).not.toMatch(/"b"|secret/);
  expect(value(await tryOutlet(office, "shelf"))).toEqual({ why: null });
  expect(value(await tryOutlet(office, "print room"))).toEqual({ why: null });
  await said({ secret: "wrong", address: `http://127.0.0.1:${shelf.port}/shelf` });
  expect(value(await tryOutlet(office, "shelf")).why).toContain("does not let");
  await said({ secret: "b", address: "http://127.0.0.1:9" });
  expect(value(await tryOutlet(office, "shelf")).why).toContain("cannot be reached");
});
