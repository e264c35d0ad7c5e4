import type { RequestState } from "@/core/engine";
import type { ProcessDefinition } from "@/core/route";
import {
  createProcess,
  draftProblems,
  recordPage,
  releaseDraft,
  saveRecord,
  startFromRecords,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let sorcha: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  sorcha = await person("sorcha.lind");
});
afterAll(() => world.close());

const add = async (key: string, values: Record<string, string | boolean | null>) =>
  value(await saveRecord(sorcha, key, null, null, values)).id;
const treatment = () => add("treatments", { object: "1" });
const statusOf = async (id: string) =>
  (await sql<{ status: string }>("select status from register.treatments where id = $1", [id]))[0]!.status;
const tick = async (id: string, done = true) => {
  value(await saveRecord(sorcha, "care_notes", id, null, { done }));
  await startFromRecords(SYSTEM);
  await workOff();
};
const requests = async () =>
  (await sql<{ number: string }>("select number from request where number like 'NOTE-%' order by id")).map(
    (r) => r.number,
  );

const stateOf = async (number: string) =>
  (await sql<{ state: RequestState }>("select state from request where number = $1", [number]))[0]!.state;

describe("a care note that is done", () => {
  it("moves the treatment it is about to under way, the first time only, and says so on it", async () => {
    const id = await treatment();
    const note = await add("care_notes", { text: "Dust", about: `treatments/${id}` });
    expect(await statusOf(id)).toBe("new");
    const before = (await requests()).length;
    await tick(note);
    expect(await statusOf(id)).toBe("under way");
    expect(await requests()).toHaveLength(before + 1);
    const page = value(await recordPage(sorcha, "treatments", id));
    expect(page.notes.map((n) => n.body)).toEqual(["Work has begun: Dust"]);
    expect(await stateOf((await requests()).at(-1)!)).toMatchObject({
      status: "finished",
      result: { name: "under way" },
    });
    // What somebody has set otherwise since stays as it is.
    value(await saveRecord(sorcha, "treatments", id, null, { status: "done", hours: "2" }));
    const second = await add("care_notes", { text: "Wax", about: `treatments/${id}` });
    await tick(second);
    expect(await statusOf(id)).toBe("done");
    expect(await requests()).toHaveLength(before + 2);
    // It was done already: nothing is newly so.
    value(await saveRecord(sorcha, "care_notes", note, null, { text: "Dust again" }));
    await startFromRecords(SYSTEM);
    expect(await requests()).toHaveLength(before + 2);
  });
  it("about an object or a loan of the same id changes nothing", async () => {
    const id = await treatment();
    const before = await requests();
    for (const about of ["objects/1", `objects/${id}`]) {
      const note = await add("care_notes", { text: "x", about });
      await tick(note);
    }
    expect(await statusOf(id)).toBe("new");
    expect(await requests()).toEqual(before);
  });
  it("that comes to be about a treatment while it is done counts as one that becomes done", async () => {
    const id = await treatment();
    const note = await add("care_notes", { text: "x", about: "objects/1", done: true });
    await startFromRecords(SYSTEM);
    value(await saveRecord(sorcha, "care_notes", note, null, { about: `treatments/${id}` }));
    await startFromRecords(SYSTEM);
    await workOff();
    expect(await statusOf(id)).toBe("under way");
  });
  it("is refused about a loan that is over, by the rule that looks through its link", async () => {
    await sql("insert into register.borrowers (name) values ('X')");
    const [loan] = await sql<{ id: string }>(
      "insert into register.loans (file_number, borrower, status) values ('L-OVER', (select max(id) from register.borrowers), 'returned') returning id::text",
    );
    const refused = await saveRecord(sorcha, "care_notes", null, null, {
      text: "x",
      kind: "to do",
      about: `loans/${loan!.id}`,
    });
    expect(refused).toMatchObject({ ok: false });
    await add("care_notes", { text: "x", kind: "seen", about: `loans/${loan!.id}` });
  });
});

let made = 0;
const definition = (change: Partial<ProcessDefinition>): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: `any-${++made}`,
  name: `Any ${made}`,
  purpose: "",
  owners: ["sorcha.lind"],
  numbering: { prefix: `ANY${String.fromCharCode(64 + made)}`, digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [],
  access: {},
  route: [{ id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  samples: [],
  ...change,
});
const released = async (d: ProcessDefinition) => {
  value(await createProcess(SYSTEM, d));
  expect(value(await draftProblems(sorcha, d.key)).filter((p) => p.severity === "error")).toEqual([]);
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d.key;
};
const about = {
  id: "about",
  name: "About",
  kind: "look-up in several" as const,
  registers: ["objects", "treatments"],
};
const end = { id: "end", name: "Finish", kind: "finish" as const, result: "done", tone: "agree" as const };

describe("in a process", () => {
  it("notes are found by the record they are about, asked of the database, whatever else has its id", async () => {
    const id = await treatment();
    await add("care_notes", { text: `t${id}`, about: `treatments/${id}` });
    await add("care_notes", { text: `o${id}`, about: `objects/${id}` });
    const key = await released(
      definition({
        fields: [
          { ...about, name: "Sought" },
          { id: "said", name: "Said", kind: "text" },
          { id: "state", name: "State now", kind: "text", worked: "Sought.Status" },
        ],
        route: [
          {
            id: "notes",
            name: "Notes",
            kind: "find",
            register: "care_notes",
            where: "About = Sought",
            sort: [],
            take: "some",
            most: 20,
            nothing: "on",
            ways: [],
          },
          {
            id: "set",
            name: "Say",
            kind: "work out",
            set: [{ field: "said", value: 'string join(Notes.Text, ", ")' }],
          },
          end,
        ],
      }),
    );
    for (const register of ["treatments", "objects"]) {
      const { number } = value(await startRequest(sorcha, key, { about: `${register}/${id}` }));
      const { data } = await stateOf(number);
      expect(data["said"]).toBe(`${register[0]}${id}`);
      // Of each register the column that is read was fetched.
      const [row] = await sql<{ status: string }>(`select status from register.${register} where id = $1`, [
        id,
      ]);
      expect(data["state"]).toBe(row!.status);
    }
    // The search is the database's: it names the register and the record in one text.
    const [searched] = await sql<{ n: number }>(
      "select count(*)::int as n from register.care_notes where about = $1",
      [`treatments/${id}`],
    );
    expect(searched!.n).toBe(1);
  });
  it("a record of another register than is written stops the step, and changes nothing", async () => {
    const id = await treatment();
    const key = await released(
      definition({
        fields: [about],
        route: [
          {
            id: "begun",
            name: "Begun",
            kind: "write",
            op: "change",
            register: "treatments",
            record: "About",
            values: [{ column: "status", value: '"under way"' }],
          },
          end,
        ],
      }),
    );
    const stuck = value(await startRequest(sorcha, key, { about: `objects/${id}` }));
    expect(await stateOf(stuck.number)).toMatchObject({ status: "stuck" });
    expect(await statusOf(id)).toBe("new");
    const went = value(await startRequest(sorcha, key, { about: `treatments/${id}` }));
    expect(await stateOf(went.number)).toMatchObject({ status: "finished" });
    expect(await statusOf(id)).toBe("under way");
  });
});
