import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  addFile,
  createProcess,
  keptFiles,
  releaseDraft,
  removeDueFiles,
  replayRequests,
  requestFiles,
  requestView,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let decider: Actor;
let owner: Actor;
beforeAll(async () => {
  world = await openWorld();
  [piet, decider, owner] = (await Promise.all(
    ["piet.hanlon", "anselm.kerr", "tobias.marrin"].map(person),
  )) as [Actor, Actor, Actor];
});
afterAll(() => world.close());

const PROCESS: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "packed",
  name: "Packed",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "PACK", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "open", name: "Open", kind: "files" },
    { id: "own", name: "Own", kind: "file" },
    {
      id: "lines",
      name: "Lines",
      kind: "lines",
      fields: [{ id: "scan", name: "Scan", kind: "file" }],
    } as never,
  ],
  access: { check: { own: "hide" } },
  route: [
    {
      id: "check",
      name: "Check",
      kind: "decide",
      who: { rule: { by: "person", person: "anselm.kerr" }, how: "one" },
      answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
    } as Step,
    { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
  ],
  samples: [],
};
const added = async (name: string, text = name) => value(await addFile(piet, name, Buffer.from(text))).id;
const paths = async (actor: Actor, number: string) => {
  const r = await requestFiles(actor, number);
  return r.ok ? r.value.map((f) => f.path) : null;
};

it("are those that one may open, each once, under names that every file system takes", async () => {
  value(await createProcess(SYSTEM, PROCESS));
  value(await releaseDraft(SYSTEM, "packed", "1.0.0", ""));
  const open = [
    await added("Offer.PDF"),
    await added("offer.pdf"),
    await added("a:b*.txt"),
    await added(".."),
  ];
  const own = await added("Own.txt");
  const scan = await added("Offer.PDF", "another");
  const { number } = value(
    await startRequest(piet, "packed", { open: open.join("\n"), own, lines: [{ "#": "1", scan }] } as never),
  );
  expect(await paths(piet, number)).toEqual([
    "Offer.PDF",
    "offer (2).pdf",
    "a-b-.txt",
    "file",
    "Own.txt",
    "Offer (3).PDF",
  ]);
  // What is hidden at the step is not packed for whoever has it.
  expect(await paths(decider, number)).toEqual([
    "Offer.PDF",
    "offer (2).pdf",
    "a-b-.txt",
    "file",
    "Offer (2).PDF".replace("2", "3"),
  ]);
  expect(await paths(await person("lucia.penrose"), number)).toBeNull();
  const [task] = await sql<{ id: string }>(
    "select t.id from task t join request r on r.id = t.request_id where r.number = $1",
    [number],
  );
  value(
    await act(decider, number, {
      type: "answer",
      task: task!.id,
      answer: "yes",
      note: "",
      data: { open: open[0]! } as never,
    }),
  );
  // What a form does not name any more nobody finds in it.
  expect(await paths(owner, number)).not.toBeNull();
});

it("are removed once they have been kept as long as the process says, and the trail says so", async () => {
  const days = 30;
  const keeps: ProcessDefinition = {
    ...PROCESS,
    key: "kept-short",
    numbering: { prefix: "SHORT", digits: 4 },
    keepFilesDays: days,
    fields: [...PROCESS.fields, { id: "sign", name: "Sign", kind: "signature" }],
  };
  value(await createProcess(SYSTEM, keeps));
  value(await releaseDraft(SYSTEM, "kept-short", "1.0.0", ""));
  const begun = async () => {
    const own = await added("Own.txt");
    const sign = await added("Signature.png");
    return value(await startRequest(piet, "kept-short", { own, sign })).number;
  };
  const [open, fresh, old] = [await begun(), await begun(), await begun()];
  const later = await added("Later.txt");
  await sql("update file set request_id = (select id from request where number = $2) where id = $1", [
    later,
    old,
  ]);
  for (const n of [fresh, old]) value(await act(piet, n, { type: "withdraw", note: "" }));
  const ago = (number: string, d: number) =>
    sql(
      `with r as (update request set ended_at = ended_at - make_interval(days => $2) where number = $1 returning id)
       update file f set added_at = added_at - make_interval(days => $2) from r where f.request_id = r.id and f.id <> $3`,
      [number, d, later],
    );
  await ago(fresh, days - 1);
  await ago(old, days + 1);
  await sql(
    "update file set added_at = added_at - interval '90 days' where request_id = (select id from request where number = $1)",
    [open],
  );
  // What a letter may still carry stays until that is on its way.
  await sql(
    `insert into message (request_id, direction, mailbox, state, subject, body, at)
     select id, 'out', 'a@b.example', 'waiting', 'x', 'x', now() from request where number = $1`,
    [old],
  );
  expect(await removeDueFiles(SYSTEM)).toEqual({ files: 0 });
  await sql("update message set state = 'sent' where mailbox = 'a@b.example'");
  expect(await removeDueFiles(SYSTEM)).toEqual({ files: 1 });
  expect(await removeDueFiles(SYSTEM)).toEqual({ files: 0 });
  expect(await paths(piet, open)).toEqual(["Own.txt", "Signature.png"]);
  expect(await paths(piet, fresh)).toEqual(["Own.txt", "Signature.png"]);
  // What a signature is stays, and what came later has its time before it.
  expect(await paths(piet, old)).toEqual(["Signature.png"]);
  expect(await sql("select 1 from file where id = $1", [later])).toHaveLength(1);
  const { trail } = value(await requestView(owner, old));
  expect(trail.filter((l) => l.text.includes("removed"))).toMatchObject([
    { text: "One file was removed: files are kept only so long after the end" },
  ]);
  expect(await removeDueFiles(piet)).toEqual({ files: 0 });
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("are counted and summed by what they belong to, for those with the rights of the office", async () => {
  expect(await keptFiles(piet)).toBeNull();
  const kept = (await keptFiles(owner))!;
  const [slow] = await sql<{ files: number; bytes: number }>(
    `select count(*)::int as files, sum(f.size)::int as bytes
     from file f join request r on r.id = f.request_id where r.process_key = 'packed'`,
  );
  expect(kept.rows.find((r) => r.key === "process packed")).toEqual({
    key: "process packed",
    of: "Requests of Packed",
    ...slow,
  });
  const [all] = await sql<{ n: number }>(
    "select (select sum(size) from file)::float8 + (select coalesce(sum(size), 0) from template_file)::float8 + (select coalesce(sum(length(bytes)), 0) from picture)::float8 as n",
  );
  expect(kept.bytes).toBe(all!.n);
  expect(kept.rows.map((r) => r.bytes)).toEqual(kept.rows.map((r) => r.bytes).sort((a, b) => b - a));
  expect(kept.database).toBeGreaterThan(kept.bytes / 100);
  expect(kept.files).toBe(kept.rows.reduce((n, r) => n + r.files, 0));
});
