import {
  act,
  actorOf,
  createProcess,
  desk,
  releaseDraft,
  requestView,
  startRequest,
  taskView,
  saveTaskDraft,
  askPage,
  saveAskDraft,
  SYSTEM,
} from "@/services";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool } from "@/db";
import { replay, NEW_REQUEST, type RequestState } from "@/core/engine";
import { processes, requests } from "@/db";
import { randomUUID } from "node:crypto";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";
import { closeOffice } from "@/outside/office";
import { day } from "../day";
import { pdfTexts } from "../pdfPages";
import { workOffOf } from "./workOff";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(async () => {
  await closeOffice();
  await world.close();
});

const start = async (who: string, process: string, data: object) =>
  value(await startRequest(await person(who), process, data as never)).number;
const stateOf = async (number: string): Promise<RequestState> =>
  (await sql<{ state: RequestState }>("select state from request where number = $1", [number]))[0]!.state;
const openTask = async (number: string, who: string) => {
  const task = Object.values((await stateOf(number)).tasks).find(
    (t) => (t.status === "open" || t.status === "taken") && t.candidates.some((c) => c.person === who),
  );
  if (!task) throw new Error(`${who} has no open task of ${number}`);
  return task.id;
};
const answer = async (number: string, who: string, choice: string, note = "", data: object = {}) =>
  act(await person(who), number, {
    type: "answer",
    task: await openTask(number, who),
    answer: choice,
    note,
    data: data as never,
  });

describe("Store key", () => {
  it("goes from form to record: manager, keeper, key out, key holder, object, key back", async () => {
    const n = await start("lucia.penrose", "store-key", {
      ...KEY,
      object: (
        await sql<{ id: string }>("select id::text from register.objects where status = 'in store' limit 1")
      )[0]!.id,
    });
    expect((await stateOf(n)).data["exception"]).toBeNull();
    value(await answer(n, "fintan.galloway", "approve"));
    value(await answer(n, "eamon.stack", "done", "", { keynumber: "K-12" }));
    const lucia = await person("lucia.penrose");
    const whole = value(await requestView(lucia, n));
    const newest = value(await requestView(lucia, n, 2));
    expect(whole.earlier).toEqual({ lines: 0, stops: 0 });
    expect(newest.trail).toEqual(whole.trail.slice(-2));
    expect(newest.path).toEqual(whole.path.slice(-2));
    expect(newest.earlier).toEqual({ lines: whole.trail.length - 2, stops: whole.path.length - 2 });
    expect(newest.earlier.stops).toBeGreaterThan(0);
    expect((await sql("select key_status, key_holder from register.stores where id = 1"))[0]).toEqual({
      key_status: "out",
      key_holder: "lucia.penrose",
    });
    expect(
      await sql("select site from register.role_holders where duty = 'Key holder' and source = $1", [n]),
    ).toEqual([{ site: "Tower House" }]);
    // Writes that follow from the handover are the keeper's doing too.
    expect(
      new Set(
        (
          await sql<{ by_person: string }>(
            "select by_person from register_history where request_number = $1",
            [n],
          )
        ).map((h) => h.by_person),
      ),
    ).toEqual(new Set(["eamon.stack"]));
    expect((await sql<{ title: string }>("select title from request where number = $1", [n]))[0]!.title).toBe(
      "Cold room, Tower House, Lucia Penrose",
    );
    expect(
      await sql("select last_handled_by from register.objects where last_handled_by is not null"),
    ).toEqual([{ last_handled_by: "lucia.penrose" }]);
    expect(
      (
        await sql(
          "select by_person, did, before, after from register_history where register_key = 'stores' and request_number = $1",
          [n],
        )
      )[0],
    ).toEqual({
      by_person: "eamon.stack",
      did: "changed",
      before: { key_status: "in the cabinet", key_holder: null },
      after: { key_status: "out", key_holder: "lucia.penrose" },
    });
    // The receipt is drawn up by a worker, and goes by mail.
    await workOffOf("effect");
    const [mail] = await sql<{ name: string; files: number }>(
      `select f.name, cardinality(m.files) as files from message m join file f on f.id = any(m.files)
       join request r on r.id = m.request_id where r.number = $1`,
      [n],
    );
    expect(mail).toEqual({ name: `Key receipt ${n}.pdf`, files: 1 });
    value(await answer(n, "eamon.stack", "done"));
    expect(await stateOf(n)).toMatchObject({ status: "finished", result: { name: "key returned" } });
    expect((await sql("select key_status from register.stores where id = 1"))[0]).toEqual({
      key_status: "in the cabinet",
    });
  });

  it("asks for reasons when a question is answered no, and lets Security look", async () => {
    const lucia = await person("lucia.penrose");
    const refused = await startRequest(lucia, "store-key", { ...KEY, trained: false });
    expect(refused).toMatchObject({
      ok: false,
      failure: {
        code: "refused",
        data: { code: "form", data: { problems: [{ code: "needed", path: "reason" }] } },
      },
    });
    const n = await start("lucia.penrose", "store-key", {
      ...KEY,
      trained: false,
      reason: "The course is next week.",
    });
    value(await answer(n, "fintan.galloway", "approve"));
    const task = await openTask(n, "hilde.sorensen");
    value(await act(await person("hilde.sorensen"), n, { type: "take", task }));
    expect((await desk(await person("cillian.roe"))).rows.some((r) => r.number === n)).toBe(false);
    value(await act(await person("hilde.sorensen"), n, { type: "put back", task }));
    expect((await desk(await person("cillian.roe"))).rows.some((r) => r.number === n)).toBe(true);
    value(await answer(n, "cillian.roe", "allow"));
    expect(await openTask(n, "eamon.stack")).toBeTruthy();
  });

  it("gets stuck when the key is out already, writes nothing, and goes on once it is back", async () => {
    const n = await start("lucia.penrose", "store-key", { ...KEY, store: "2" });
    value(await answer(n, "fintan.galloway", "approve"));
    await sql("update register.stores set key_status = 'out' where id = 2");
    value(await answer(n, "eamon.stack", "done", "", { keynumber: "K-1" }));
    expect((await stateOf(n)).stuck[0]!.reason).toMatchObject({ code: "must-not" });
    expect(await sql("select 1 from register_history where request_number = $1", [n])).toEqual([]);
    const token = (await stateOf(n)).stuck[0]!.token;
    expect(await act(await person("lucia.penrose"), n, { type: "retry", token })).toMatchObject({
      ok: false,
      failure: { code: "not-allowed" },
    });
    await sql("update register.stores set key_status = 'in the cabinet' where id = 2");
    value(await act(await person("tobias.marrin"), n, { type: "retry", token }));
    expect((await stateOf(n)).status).toBe("under way");
    expect((await sql("select key_status from register.stores where id = 2"))[0]).toEqual({
      key_status: "out",
    });
  });

  it("keeps what a step may not see on the server", async () => {
    const n = await start("lucia.penrose", "store-key", {
      ...KEY,
      store: "3",
      keynumber: "K-99",
      remarks: "slipped in",
    });
    expect((await stateOf(n)).data).toMatchObject({ keynumber: null, remarks: null });
    const page = value(
      await taskView(await person("fintan.galloway"), n, await openTask(n, "fintan.galloway")),
    );
    expect(JSON.stringify(page.form)).not.toContain("Key number");
    expect(page.form.access["keynumber"]).toBeUndefined();
    expect(await requestView(await person("bridie.okafor"), n)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
  });

  it("is sent back for changes and comes again; declined with a note it ends", async () => {
    const n = await start("lucia.penrose", "store-key", { ...KEY, store: "4" });
    expect(await answer(n, "fintan.galloway", "return")).toMatchObject({
      ok: false,
      failure: { data: { code: "note-needed" } },
    });
    value(await answer(n, "fintan.galloway", "return", "Which shelf?"));
    value(await answer(n, "lucia.penrose", "sent", "", { purpose: "Shelf A4" }));
    expect((await stateOf(n)).data["purpose"]).toBe("Shelf A4");
    value(await answer(n, "fintan.galloway", "decline", "Not this week"));
    expect((await stateOf(n)).result?.name).toBe("declined");
    expect(
      await sql(
        "select 1 from task_candidate c join request r on r.id = c.request_id where r.number = $1 and c.open",
        [n],
      ),
    ).toEqual([]);
    expect(
      await sql("select 1 from timer t join request r on r.id = t.request_id where r.number = $1", [n]),
    ).toEqual([]);
  });

  it("hands a task over, but never to the requester", async () => {
    const n = await start("lucia.penrose", "store-key", { ...KEY, store: "5" });
    const task = await openTask(n, "fintan.galloway");
    const fintan = await person("fintan.galloway");
    expect(await act(fintan, n, { type: "hand over", task, to: "lucia.penrose", note: "" })).toMatchObject({
      failure: { data: { code: "own-request" } },
    });
    value(await act(fintan, n, { type: "hand over", task, to: "orla.fennimore", note: "I am travelling" }));
    expect((await desk(await person("orla.fennimore"))).rows.map((r) => r.number)).toContain(n);
    expect((await desk(fintan)).rows.map((r) => r.number)).not.toContain(n);
  });

  it("an owner gives anybody's task to somebody else; nobody else may", async () => {
    const n = await start("lucia.penrose", "store-key", { ...KEY, store: "6" });
    const task = await openTask(n, "fintan.galloway");
    const give = { type: "reassign", task, to: "orla.fennimore", note: "He has left" } as const;
    for (const who of ["lucia.penrose", "fintan.galloway"])
      expect(await act(await person(who), n, give)).toMatchObject({ failure: { code: "not-allowed" } });
    expect(await act(await person("dov.merrick"), n, give)).toMatchObject({ failure: { code: "not-found" } });
    const [owner] = await sql<{ id: string }>(
      "select o.person_id id from process_owner o where o.process_key = 'store-key' limit 1",
    );
    const view = value(await requestView(await person(owner!.id), n));
    expect(view.mayWatch).toBe(true);
    expect(value(await requestView(await person("lucia.penrose"), n)).mayWatch).toBe(false);
    value(await act(await person(owner!.id), n, give));
    expect((await desk(await person("orla.fennimore"))).rows.map((r) => r.number)).toContain(n);
  });
});

describe("Conservation supplies", () => {
  it("passes by itself up to EUR 500 exactly, with the arithmetic of the price list", async () => {
    await sql("update register.price_list set price = 250.00 where id = 13");
    const n = await start("piet.hanlon", "supplies", orderOf(2, "13"));
    expect(await stateOf(n)).toMatchObject({
      status: "finished",
      result: { name: "passed by itself" },
      data: { total: "500" },
    });
    expect((await sql("select title from request where number = $1", [n]))[0]).toEqual({
      title: "Supplies for Conservation, EUR 500.00",
    });
  });
  it("goes to the budget holder above, with the limit its rule says and the reason on the trail", async () => {
    const n = await start("piet.hanlon", "supplies", orderOf(3, "13"));
    expect((await desk(await person("sorcha.lind"))).rows.map((r) => r.number)).toContain(n);
    const view = value(await requestView(await person("piet.hanlon"), n));
    const table = view.trail.find((l) => l.text === "Handling: rule 2");
    expect(table?.why.map((w) => `${w.text}: ${w.result}`)).toEqual([
      "Total: 750",
      "Requester.department: Conservation",
      "Urgent: no",
    ]);
    expect(view.trail.find((l) => l.why.some((w) => w.text.includes("12 working hours")))).toBeTruthy();
    expect(view.trail.find((l) => l.text.includes("above EUR 500"))).toBeTruthy();
  });
  it("asks the cover of someone away", async () => {
    // Patrick holds the budget where no department has its own holder, and is away.
    const n = await start("orla.fennimore", "supplies", orderOf(4, "13"));
    const task = Object.values((await stateOf(n)).tasks).find((t) => t.step === "budget")!;
    expect(task.candidates).toEqual([{ person: "rosalind.meath", for: "patrick.iverson" }]);
    value(await answer(n, "rosalind.meath", "approve"));
    const view = value(await requestView(await person("orla.fennimore"), n));
    expect(JSON.stringify(view.trail)).toContain("for Patrick Iverson");
  });
  it("asks nobody about their own request as somebody's cover, and says for whom nobody was found", async () => {
    // Both the holder and the manager of the fallback are Patrick, and his cover is the requester herself.
    const n = await start("rosalind.meath", "supplies", orderOf(4, "13"));
    expect(await stateOf(n)).toMatchObject({
      status: "stuck",
      stuck: [{ reason: { code: "nobody", data: { step: "Budget holder decides" } } }],
    });
    expect((await desk(await person("rosalind.meath"))).rows.map((r) => r.number)).not.toContain(n);
  });
  it("refuses a bad form with every problem, and keeps nothing", async () => {
    const before = (await sql<{ n: string }>("select count(*) n from request"))[0]!.n;
    const r = await startRequest(await person("piet.hanlon"), "supplies", {
      project: "",
      items: [
        { "#": "1", item: "1", quantity: "0" },
        { "#": "2", item: null, quantity: "x" },
      ],
    });
    expect(
      r.ok === false &&
        r.failure.code === "refused" &&
        r.failure.data.code === "form" &&
        r.failure.data.data.problems.map((p) => `${p.path} ${p.code}`),
    ).toEqual([
      "project needed",
      "items/1/quantity too-small",
      "items/2/item needed",
      "items/2/quantity not-a-number",
    ]);
    expect((await sql<{ n: string }>("select count(*) n from request"))[0]!.n).toBe(before);
  });
  it("makes one request of two sends with the same key", async () => {
    const piet = await person("piet.hanlon");
    const both = await Promise.all([
      startRequest(piet, "supplies", orderOf(1), "same"),
      startRequest(piet, "supplies", orderOf(1), "same"),
    ]);
    expect(value(both[0]).number).toBe(value(both[1]).number);
  });
});

describe("Object loan", () => {
  const loan = async (above: number) => {
    const rows = await sql<{ id: string }>(
      "select id::text from register.objects where status in ('in store', 'on show') order by id limit 2",
    );
    await sql("update register.objects set insured_value = $1 where id = any($2::bigint[])", [
      above / 2,
      rows.map((r) => r.id),
    ]);
    return {
      objects: rows.map((r) => r.id),
      data: {
        borrower: "1",
        exhibition: "Paper harbours",
        starts: day(90),
        ends: day(240),
        climatenote: "Central plant",
        courier: false,
        objects: rows.map((r, i) => ({ "#": String(i + 1), object: r.id, display: "case" })),
      },
    };
  };
  const bothReserved = async (ids: string[]) =>
    (
      await sql<{ status: string }>("select status from register.objects where id = any($1::bigint[])", [ids])
    ).every((r) => r.status === "proposed for loan");

  it("above 50,000 needs Registry, Conservation, Security and the Director; then loan, lines and objects are written", async () => {
    await sql("update register.borrowers set standing = 'good' where id = 1");
    const { objects, data } = await loan(60_000);
    const n = await start("ruben.aske", "object-loan", data);
    value(await answer(n, "maeve.dunlea", "approve"));
    // Each object is decided about by itself.
    value(await answer(n, "sorcha.lind", "approve"));
    value(await answer(n, "sorcha.lind", "approve"));
    expect(await bothReserved(objects)).toBe(false);
    value(await answer(n, "dermot.vane", "approve"));
    value(await answer(n, "orla.fennimore", "approve"));
    // The agreement is drawn up by a worker.
    await workOffOf("effect");
    expect(await stateOf(n)).toMatchObject({ status: "finished", result: { name: "agreed" } });
    expect(await bothReserved(objects)).toBe(true);
    const [papers] = await sql<{ name: string; bytes: Buffer }>(
      `select f.name, c.bytes from register.loans l join file f on f.record_id = l.id and f.register_key = 'loans'
       join content_part c on c.sha256 = f.sha256 and c.nth = 0 where l.file_number = $1 order by f.name desc`,
      [n],
    );
    expect(papers!.name).toBe(`Loan agreement ${n}.pdf`);
    const words = (await pdfTexts(papers!.bytes)).flat().map((t) => t.text);
    expect(words.join(" ")).toContain("60,000.00");
    expect(
      await sql("select status, total_insured_value::text from register.loans where file_number = $1", [n]),
    ).toEqual([{ status: "agreed", total_insured_value: "60000" }]);
    expect(
      await sql(
        "select lo.value_at_signing::text from register.loan_objects lo join register.loans l on l.id = lo.loan where l.file_number = $1",
        [n],
      ),
    ).toHaveLength(2);
  });
  it("below 20,000 Security is not asked; a decline changes no record", async () => {
    const { objects, data } = await loan(10_000);
    const n = await start("ruben.aske", "object-loan", data);
    value(await answer(n, "maeve.dunlea", "approve"));
    expect(
      Object.values((await stateOf(n)).tasks)
        .filter((t) => t.status === "open")
        .map((t) => t.candidates[0]!.person),
    ).toEqual(["sorcha.lind", "sorcha.lind"]);
    value(await answer(n, "sorcha.lind", "decline", "Too fragile"));
    expect((await stateOf(n)).status).toBe("under way");
    value(await answer(n, "sorcha.lind", "decline", "Too large"));
    expect((await stateOf(n)).result?.name).toBe("declined");
    expect(await bothReserved(objects)).toBe(false);
    expect(await sql("select 1 from register.loans where file_number = $1", [n])).toEqual([]);
  });
  it("what is declined is left out: only what was agreed is reserved, listed and counted", async () => {
    const { objects, data } = await loan(10_000);
    const n = await start("ruben.aske", "object-loan", data);
    value(await answer(n, "maeve.dunlea", "approve"));
    value(await answer(n, "sorcha.lind", "decline", "Too fragile"));
    value(await answer(n, "sorcha.lind", "approve"));
    await workOffOf("effect");
    expect(await stateOf(n)).toMatchObject({ status: "finished", result: { name: "agreed" } });
    const rows = await sql<{ object: string; status: string; value: string }>(
      `select lo.object::text, o.status, l.total_insured_value::text as value from register.loan_objects lo
       join register.loans l on l.id = lo.loan join register.objects o on o.id = lo.object where l.file_number = $1`,
      [n],
    );
    expect(rows).toEqual([{ object: objects[1], status: "proposed for loan", value: "5000" }]);
    const [left] = await sql<{ status: string }>("select status from register.objects where id = $1", [
      objects[0],
    ]);
    expect(left!.status).not.toBe("proposed for loan");
  });
  it("says which objects are lent in the same weeks already", async () => {
    const { data } = await loan(10_000);
    const other = { ...data, objects: data.objects.slice(0, 1), starts: day(400), ends: day(500) };
    const first = await start("ruben.aske", "object-loan", other);
    value(await answer(first, "maeve.dunlea", "approve"));
    value(await answer(first, "sorcha.lind", "approve"));
    await workOffOf("effect");
    const lent = async (starts: string, ends: string) => {
      await sql("update register.objects set status = 'in store' where id = $1", [data.objects[0]!.object]);
      const n = await start("ruben.aske", "object-loan", { ...data, starts, ends });
      return (await stateOf(n)).data["lent"];
    };
    expect(await lent(day(450), day(460))).toContain(first);
    expect(await lent(day(500), day(510))).toContain(first);
    expect(await lent(day(501), day(510))).toBe("none");
    expect(await lent(day(300), day(399))).toBe("none");
  });
  it("is withdrawn by its requester, and then nobody can answer", async () => {
    const { data } = await loan(30_000);
    const n = await start("ruben.aske", "object-loan", data);
    value(await answer(n, "maeve.dunlea", "approve"));
    const task = await openTask(n, "sorcha.lind");
    expect(await act(await person("ines.corrigan"), n, { type: "withdraw", note: "" })).toMatchObject({
      ok: false,
    });
    value(await act(await person("ruben.aske"), n, { type: "withdraw", note: "No longer needed" }));
    expect(
      await act(await person("sorcha.lind"), n, {
        type: "answer",
        task,
        answer: "approve",
        note: "",
        data: {},
      }),
    ).toMatchObject({ ok: false });
    expect((await desk(await person("sorcha.lind"))).rows.map((r) => r.number)).not.toContain(n);
  });
});

it("formulas that take too long keep nothing of the command, and the sentence says so", async () => {
  const n = await start("lucia.penrose", "store-key", { ...KEY, store: "9" });
  const before = await stateOf(n);
  let now = 0;
  const clock = jest.spyOn(performance, "now").mockImplementation(() => (now += 3000));
  const r = await answer(n, "fintan.galloway", "approve");
  clock.mockRestore();
  expect(r).toMatchObject({ ok: false, failure: { code: "too-heavy" } });
  expect(await stateOf(n)).toEqual(before);
  expect((await answer(n, "fintan.galloway", "approve")).ok).toBe(true);
});

it("two people answering at once give one answer and one clear refusal", async () => {
  for (let i = 0; i < 5; i++) {
    const n = await start("dov.merrick", "store-key", {
      ...KEY,
      store: String(8 + i),
      trained: false,
      reason: "Course next week",
    });
    value(await answer(n, "aoife.lanigan", "approve"));
    const task = await openTask(n, "hilde.sorensen");
    const people = await Promise.all(["hilde.sorensen", "cillian.roe", "dermot.vane"].map(person));
    const results = await Promise.all(
      people.map((p) => act(p, n, { type: "answer", task, answer: "allow", note: "", data: {} })),
    );
    expect(results.filter((r) => r.ok)).toHaveLength(1);
    for (const r of results)
      if (!r.ok) expect(r.failure).toMatchObject({ code: "refused", data: { code: "already-answered" } });
    expect(
      await sql(
        "select 1 from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'answer given' and e.body->>'task' = $2",
        [n, task],
      ),
    ).toHaveLength(1);
  }
});

it("eight people answering at once, all of whom must agree: each counts once, and what follows happens once", async () => {
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "many",
    name: "Many",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "MANY", digits: 4 },
    title: "{count(People)} asked",
    access: {},
    samples: [],
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "people", name: "People", kind: "lines", fields: [{ id: "who", name: "Who", kind: "person" }] },
    ],
    route: [
      {
        id: "all",
        name: "All agree",
        kind: "decide",
        who: { rule: { by: "formula", formula: "People.Who" }, how: "all" },
        limit: {
          otherwise: { amount: 2, unit: "working days" },
          rungs: [
            {
              id: "r",
              when: "before",
              length: { amount: 1, unit: "working hours" },
              action: { do: "remind" },
            },
          ],
        },
        answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
      },
      {
        id: "add",
        name: "Add",
        kind: "write",
        op: "add",
        register: "price_list",
        values: [
          { column: "item", value: '"Agreed " + Request.number' },
          { column: "unit", value: '"piece"' },
          { column: "price", value: "count(People)" },
        ],
      },
      { id: "end", name: "Finish", kind: "finish", result: "agreed", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "many", "1.0.0", ""));
  const people = [
    "hilde.sorensen",
    "cillian.roe",
    "dermot.vane",
    "sorcha.lind",
    "piet.hanlon",
    "yara.quill",
    "noel.abernathy",
    "eamon.stack",
  ];
  for (let round = 0; round < 3; round++) {
    const n = await start("lucia.penrose", "many", {
      people: people.map((who, i) => ({ "#": String(i + 1), who })),
    });
    const results = await Promise.all(people.map(async (p) => answer(n, p, "yes")));
    expect(results.map((r) => r.ok)).toEqual(people.map(() => true));
    expect(await stateOf(n)).toMatchObject({ status: "finished", result: { name: "agreed" }, timers: {} });
    expect(await sql("select price from register.price_list where item = $1", [`Agreed ${n}`])).toEqual([
      { price: "8" },
    ]);
    const [row] = await sql<{ answers: number; events: number; last: number; timers: number; open: number }>(
      `select count(*) filter (where e.type = 'answer given')::int as answers, count(*)::int as events, max(e.seq)::int as last,
              (select count(*)::int from timer t where t.request_id = r.id) as timers, (select count(*)::int from task_candidate c where c.request_id = r.id and c.open) as open
       from request r join request_event e on e.request_id = r.id where r.number = $1 group by r.id`,
      [n],
    );
    expect(row).toEqual({ answers: 8, events: row!.last, last: row!.events, timers: 0, open: 0 });
  }
});

it("a request is called by a record that the same command has written", async () => {
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "named-after",
    name: "Named after",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "NAMED", digits: 4 },
    title: "For {Kept.Institution}",
    access: {},
    samples: [],
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "what", name: "What", kind: "text" },
      { id: "kept", name: "Kept", kind: "look-up", register: "borrowers" },
    ],
    route: [
      {
        id: "add",
        name: "Add",
        kind: "write",
        op: "add",
        register: "borrowers",
        values: [{ column: "name", value: "What" }],
        into: "kept",
      },
      {
        id: "look",
        name: "Look",
        kind: "complete",
        who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
        button: "Done",
      },
      { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "named-after", "1.0.0", ""));
  const n = await start("lucia.penrose", "named-after", { what: "Moor House" });
  expect(await sql("select title from request where number = $1", [n])).toEqual([
    { title: "For Moor House" },
  ]);
});

it("writes that go round in a circle leave nothing behind but a request that is stuck and says where", async () => {
  const raise = (id: string, name: string): Step => ({
    id,
    name,
    kind: "write",
    op: "change",
    register: "price_list",
    record: "Item",
    values: [{ column: "price", value: "Item.Price + 1" }],
  });
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "round",
    name: "Round",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "ROUND", digits: 4 },
    title: "",
    access: {},
    samples: [],
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [{ id: "item", name: "Item", kind: "look-up", register: "price_list" }],
    route: [
      {
        id: "ask",
        name: "Somebody agrees",
        kind: "decide",
        who: { rule: { by: "person", person: "hilde.sorensen" }, how: "one" },
        answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
      },
      {
        id: "again",
        name: "Once more",
        kind: "choose",
        ways: [
          {
            id: "more",
            name: "more",
            when: "Item.Price > 0",
            steps: [
              raise("one", "First"),
              raise("two", "Second"),
              { id: "j", name: "Back", kind: "jump", to: "again" },
            ],
          },
          { id: "enough", name: "enough", steps: [] },
        ],
      },
      { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  // The checks refuse a release of it today; one that came before them may still run.
  const at = new Date().toISOString();
  const release = { process: "round", version: "1.0.0", note: "", definition, at, by: null, names: {} };
  await processes.insertRelease(getPool(), release);
  const price = () => sql("select price from register.price_list where id = 5");
  const before = await price();
  const n = await start("lucia.penrose", "round", { item: "5" });
  value(await answer(n, "hilde.sorensen", "yes"));
  const state = await stateOf(n);
  expect(state.stuck).toMatchObject([
    { step: "one", reason: { code: "runaway", data: { step: "First → Second", limit: 300 } } },
  ]);
  expect(Object.values(state.tasks)[0]).toMatchObject({ status: "answered", answer: "yes" });
  expect(await price()).toEqual(before);
});

it("an answer decided on what is no longer so is decided again", async () => {
  const n = await start("lucia.penrose", "store-key", KEY);
  const before = (await requests.requestForCommand(getPool(), { number: n }, false))!;
  value(await answer(n, "fintan.galloway", "approve"));
  const change = {
    id: before.id,
    from: before.version,
    fresh: null,
    title: "late",
    stage: null,
    state: before.state,
    before: null,
    events: [],
    changes: { tasks: [], setTimers: [], clearTimers: [], watches: [] },
    stepNames: {},
    atOnce: new Set<string>(),
    jobs: null,
    answered: null,
    news: [],
    told: [],
    mails: [],
    beyond: false,
    via: null,
  };
  expect(await requests.saveRequest(getPool(), change)).toBeNull();
  expect((await sql("select title from request where number = $1", [n]))[0]).not.toEqual({ title: "late" });
});

it("what is stored is the fold of what is on the trail, for every request", async () => {
  const all = await requests.statesAfter(getPool(), "0", 10_000);
  expect(all.length).toBeGreaterThan(10);
  for (const r of all)
    expect(JSON.parse(JSON.stringify(replay(await requests.eventsOf(getPool(), r.id), NEW_REQUEST)))).toEqual(
      r.state,
    );
});

it("keeps what is typed, per person, until it is sent", async () => {
  const lucia = await person("lucia.penrose");
  const id = randomUUID();
  value(await saveAskDraft(lucia, "store-key", id, { purpose: "half a sen" }));
  expect(value(await askPage(lucia, "store-key", id)).form.data["purpose"]).toBe("half a sen");
  expect(
    value(await askPage(await person("dov.merrick"), "store-key", id)).form.data["purpose"] ?? null,
  ).toBeNull();
  value(await startRequest(lucia, "store-key", { ...KEY, store: "6" }, id));
  expect(value(await askPage(lucia, "store-key", id)).restoredAt).toBeNull();

  const n = await start("lucia.penrose", "store-key", { ...KEY, store: "7" });
  const fintan = await person("fintan.galloway");
  const task = await openTask(n, "fintan.galloway");
  value(await saveTaskDraft(fintan, n, task, randomUUID(), {}, {}, "I wonder whether"));
  expect(value(await taskView(fintan, n, task)).note).toBe("I wonder whether");
});

it("somebody who left is nobody", async () => {
  await sql("update person set active = false where id = 'caspar.doyle'");
  expect(await actorOf(getPool(), "caspar.doyle")).toBeNull();
});
