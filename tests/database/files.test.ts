import { randomUUID } from "node:crypto";
import {
  act,
  addFile,
  askPage,
  draftView,
  editDraft,
  releaseDraft,
  requestView,
  saveAskDraft,
  saveTaskDraft,
  startRequest,
  sweepFiles,
  taskView,
  type Actor,
  SYSTEM,
} from "@/services";
import type { FileFacts } from "@/core/form";
import { openWorld, orderOf, person, sql, value } from "./world";
import { readFile } from "./readFile";
import { day } from "../day";

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let sorcha: Actor;
let yara: Actor;
beforeAll(async () => {
  world = await openWorld();
  [piet, sorcha, yara] = (await Promise.all(["piet.hanlon", "sorcha.lind", "yara.quill"].map(person))) as [
    Actor,
    Actor,
    Actor,
  ];
});
afterAll(() => world.close());

const add = async (by: Actor, name = "Offer.pdf", bytes = "12 rolls of tissue") =>
  value(await addFile(by, name, Buffer.from(bytes)));
const ask = async (by: Actor, quote: string | null, quantity = 80) =>
  startRequest(by, "supplies", { ...orderOf(quantity), quote });
const problems = (r: Awaited<ReturnType<typeof ask>>) =>
  !r.ok && r.failure.code === "refused" && r.failure.data.code === "form"
    ? r.failure.data.data.problems.map((p) => `${p.path} ${p.code}`)
    : r;
const read = async (by: Actor, f: Pick<FileFacts, "id">) => {
  const r = await readFile(by, f.id);
  return r.ok ? r.value.bytes.toString() : r.failure.code;
};
const taskOf = async (n: string) =>
  Object.values(
    (
      await sql<{ state: { tasks: Record<string, { id: string; status: string }> } }>(
        "select state from request where number = $1",
        [n],
      )
    )[0]!.state.tasks,
  ).find((t) => t.status === "open")!.id;

it("goes with the request: whoever sees the field opens it, nobody else", async () => {
  const f = await add(piet);
  expect(f).toMatchObject({ name: "Offer.pdf", size: 18, type: "application/pdf" });
  expect([await read(piet, f), await read(sorcha, f), await read(piet, { id: "nothing" })]).toEqual([
    "12 rolls of tissue",
    "not-found",
    "not-found",
  ]);
  const n = value(await ask(piet, f.id)).number;
  const view = value(await requestView(sorcha, n));
  expect(view.form.data["quote"]).toBe(f.id);
  expect(view.form.facts.files).toEqual({ [f.id]: f });
  expect([await read(piet, f), await read(sorcha, f), await read(yara, f)]).toEqual([
    "12 rolls of tissue",
    "12 rolls of tissue",
    "not-found",
  ]);
});

it("somebody else's file, or that of another request, is not taken", async () => {
  const theirs = await add(sorcha);
  expect(problems(await ask(piet, theirs.id))).toEqual(["quote no-file"]);
  const mine = await add(piet);
  value(await ask(piet, mine.id));
  expect(problems(await ask(piet, mine.id))).toEqual(["quote no-file"]);
  expect(problems(await ask(piet, "../../etc/passwd"))).toEqual(["quote no-file"]);
  // Not by way of an answer that leaves the form's problems aside either.
  const n = value(await ask(piet, null)).number;
  const task = await taskOf(n);
  value(await act(sorcha, n, { type: "answer", task, answer: "return", note: "Add an offer", data: {} }));
  const changes = await taskOf(n);
  expect(
    await act(piet, n, {
      type: "answer",
      task: changes,
      answer: "sent",
      note: "",
      data: { quote: theirs.id },
    }),
  ).toMatchObject({ ok: false });
  expect(await read(piet, theirs)).toBe("not-found");
  const better = await add(piet, "Better offer.pdf", "cheaper");
  value(await saveTaskDraft(piet, n, changes, randomUUID(), { quote: better.id }, {}, ""));
  expect(value(await taskView(piet, n, changes)).form.facts.files).toMatchObject({
    [better.id]: { name: "Better offer.pdf" },
  });
  value(
    await act(piet, n, {
      type: "answer",
      task: changes,
      answer: "sent",
      note: "",
      data: { quote: better.id },
    }),
  );
  expect(await read(sorcha, better)).toBe("cheaper");
});

it("two requests at once with one file: one has it, the other is refused with the reason", async () => {
  const f = await add(piet);
  const both = await Promise.all([ask(piet, f.id), ask(piet, f.id)]);
  expect(both.filter((r) => r.ok)).toHaveLength(1);
  expect(await sql("select count(*)::int n from request where state->'data'->>'quote' = $1", [f.id])).toEqual(
    [{ n: 1 }],
  );
});

it("the field's own kinds and size count, and what is no file is refused at once", async () => {
  expect(problems(await ask(piet, (await add(piet, "run.exe")).id))).toEqual(["quote wrong-file"]);
  const large = value(await addFile(piet, "scan.pdf", Buffer.alloc(10_000_001)));
  expect(problems(await ask(piet, large.id))).toEqual(["quote file-too-large"]);
  const said = async (name: string, bytes: Buffer) => {
    const r = await addFile(piet, name, bytes);
    return r.ok ? r.value.name : r.failure.code === "invalid" && r.failure.data.message;
  };
  expect(await said("empty.pdf", Buffer.alloc(0))).toBe('"empty.pdf" is empty.');
  expect(await said(" \u0007/", Buffer.from("x"))).toBe("The file needs a name, for example quote.pdf.");
  expect(await said("huge.pdf", Buffer.alloc(100_000_001))).toBe(
    'Files may have up to 100 MB; "huge.pdf" has 100.1 MB.',
  );
  expect(await said("C:\\Users\\me\\..\\Offer\u202efdp.exe", Buffer.from("x"))).toBe("Offerfdp.exe");
  expect(await said(`${"a".repeat(300)}.pdf`, Buffer.from("x"))).toBe(`${"a".repeat(196)}.pdf`);
});

it("nobody fills the store with what they never send", async () => {
  await sql(
    `with c as (insert into content (sha256, size, place) values ('\\x00', 499999990, 'database') returning sha256)
     insert into file (id, name, media_type, size, sha256, added_at, added_by)
     select 'much', 'm.pdf', 'application/pdf', 499999990, sha256, $1, 'lucia.penrose' from c`,
    [day(0)],
  );
  const lucia = await person("lucia.penrose");
  expect(await addFile(lucia, "small.pdf", Buffer.alloc(20))).toMatchObject({
    ok: false,
    failure: { code: "invalid", data: { message: expect.stringContaining("500 MB") } },
  });
  expect(await addFile(piet, "small.pdf", Buffer.alloc(20))).toMatchObject({ ok: true });
});

it("a hidden field's file cannot be opened, nor is it named", async () => {
  const owner = await person("tobias.marrin");
  const { version } = value(await draftView(owner, "supplies"));
  value(
    await editDraft(owner, "supplies", version, [
      { op: "access.set", step: "budget", field: "quote", access: "hide" },
      { op: "process.set", patch: { title: "Order with {Quote.name}, {Quote.size / 1000} KB" } },
    ]),
  );
  value(await releaseDraft(owner, "supplies", "3.0.0", ""));
  const f = await add(piet);
  const n = value(await ask(piet, f.id)).number;
  expect(await sql("select title from request where number = $1", [n])).toEqual([
    { title: "Order with Offer.pdf, 0.018 KB" },
  ]);
  const view = value(await requestView(sorcha, n));
  expect(view.form.facts.files).toEqual({});
  expect(JSON.stringify(view.form)).not.toContain(f.id);
  expect([await read(sorcha, f), await read(piet, f)]).toEqual(["not-found", "12 rolls of tissue"]);
});

it("what was never sent goes after a month, unless a kept form names it", async () => {
  const old = async (name: string) => {
    const f = await add(piet, name);
    await sql("update file set added_at = added_at - interval '31 days' where id = $1", [f.id]);
    return f;
  };
  const [left, kept, young, sent] = [
    await old("left.pdf"),
    await old("kept.pdf"),
    await add(piet, "young.pdf"),
    await old("sent.pdf"),
  ];
  value(await ask(piet, sent.id));
  const draft = randomUUID();
  value(await saveAskDraft(piet, "supplies", draft, { quote: kept.id }));
  expect(value(await askPage(piet, "supplies", draft)).form.facts.files).toMatchObject({
    [kept.id]: { name: "kept.pdf" },
  });
  expect(await sweepFiles(SYSTEM)).toBe(1);
  expect([
    await read(piet, left),
    await read(piet, kept),
    await read(piet, young),
    await read(piet, sent),
  ]).toEqual(["not-found", "12 rolls of tissue", "12 rolls of tissue", "12 rolls of tissue"]);
});
