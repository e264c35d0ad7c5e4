import type { Audience, RegisterRights, RegisterShape } from "@/core/form";
import { EVERYBODY, NOBODY } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, registers } from "@/db";
import {
  askPage,
  createProcess,
  draftView,
  find,
  lookUp,
  makeKey,
  recordPage,
  registerList,
  registerPage,
  releaseDraft,
  releasePage,
  requestView,
  rightsPage,
  sampleValues,
  saveAskDraft,
  setRegisterRights,
  startRequest,
  stepPreview,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { Random } from "../../demo/random";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);
/**
 * What of a register one may not see does not exist: random rights, a word of its own in every cell, and everything
 * anybody can ask for looked through for the words hidden from them.
 */
let world: Awaited<ReturnType<typeof openWorld>>;
const [ASKER, DECIDER, OWNER, OFFICE, STRANGER] = [
  "lucia.penrose",
  "sorcha.lind",
  "maeve.dunlea",
  "tobias.marrin",
  "dov.merrick",
] as const;
const PEOPLE = [ASKER, DECIDER, OWNER, OFFICE, STRANGER];

const shape = (s: Omit<RegisterShape, "format" | "purpose">): RegisterShape => ({
  format: "cobble-step/register@1",
  purpose: "",
  ...s,
});
const ROOMS = shape({
  key: "rights_rooms",
  name: "Rooms",
  one: "room",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "code", name: "Door code", kind: "text" },
  ],
});
const VAULT = shape({
  key: "rights_vault",
  name: "Vault",
  one: "piece",
  title: ["name", "mark"],
  columns: [
    { id: "name", name: "Piece", kind: "text" },
    { id: "mark", name: "Mark", kind: "text" },
    { id: "secret", name: "Secret", kind: "text" },
    { id: "room", name: "Room", kind: "look-up", register: "rights_rooms" },
  ],
});
const COUNT = 4;
/** The word in a cell; it stands nowhere else. */
const word = (register: string, column: string, n: number) => `${register}${column}word${n}`;

async function fill(): Promise<void> {
  const db = getPool();
  await registers.createRegister(db, ROOMS, NOBODY);
  await registers.createRegister(db, VAULT, NOBODY);
  for (let n = 1; n <= COUNT; n++) {
    const room = await registers.insertRecord(db, ROOMS, {
      label: word("rooms", "label", n),
      code: word("rooms", "code", n),
    });
    await registers.insertRecord(db, VAULT, {
      name: word("vault", "name", n),
      mark: word("vault", "mark", n),
      secret: word("vault", "secret", n),
      room: room.id,
    });
  }
}

const write = (id: string, ...columns: string[]): Step => ({
  id,
  name: `Mark ${columns.join(" and ")}`,
  kind: "write",
  op: "change",
  register: "rights_vault",
  record: "Item",
  values: columns.map((column) => ({
    column,
    value: `Item.${column === "secret" ? "Secret" : "Mark"} + "again"`,
  })),
});
const long = (id: string, name: string, text: string): Step => ({
  id,
  name,
  kind: "choose",
  ways: [
    { id: `${id}-w`, name: "long", when: text, steps: [] },
    { id: `${id}-o`, name: "else", steps: [] },
  ],
});
const INNER: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "rights-inner",
  name: "Rights inside",
  purpose: "",
  owners: [OWNER],
  numbering: { prefix: "", digits: 4 },
  title: "",
  procedure: true,
  starts: [],
  access: {},
  samples: [],
  fields: [{ id: "thing", name: "Thing", kind: "look-up", register: "rights_vault", hand: "in" }],
  route: [long("ic", "Inner way", 'Thing.Secret != "x"')],
};
const steps: Step[] = [
  {
    id: "f",
    name: "Pieces",
    kind: "find",
    register: "rights_vault",
    where: 'Secret != "x" and Room.Door code != Item.Room.Door code or Secret = Item.Secret',
    take: "some",
    most: 10,
    nothing: "on",
    ways: [],
  },
  long("c", "Way", "string length(Item.Secret) > 1"),
  { id: "w1", name: "Set it", kind: "work out", set: [{ field: "other", value: "Item" }] },
  {
    id: "h",
    name: "Hand on",
    kind: "hand to",
    procedure: "rights-inner",
    ...portsOf(INNER.fields),
    values: [{ port: "thing", value: "Item" }],
  } as Step,
  write("x", "secret"),
  write("y", "mark"),
  write("z", "secret", "mark"),
  {
    id: "d",
    name: "Look",
    kind: "decide",
    who: { rule: { by: "person", person: DECIDER }, how: "one" },
    answers: [{ id: "ok", label: "OK", tone: "agree", steps: [] }],
  },
  { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
];
const DEFINITION: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "rights",
  name: "Rights tried",
  purpose: "",
  owners: [OWNER],
  numbering: { prefix: "RGHT", digits: 4 },
  title: "Tried",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [{ id: "s1", name: "One", requester: ASKER, data: { item: "2" } }],
  fields: [
    { id: "item", name: "Item", kind: "look-up", register: "rights_vault" },
    {
      id: "long",
      name: "Long",
      kind: "yes or no",
      worked: "string length(Item.Secret + Item.Room.Door code) > 3",
    },
    { id: "other", name: "Other", kind: "look-up", register: "rights_vault" },
    { id: "note", name: "Note", kind: "text", needed: 'Item.Mark = "none"', shown: 'Item.Secret != "none"' },
  ],
  route: steps,
};

beforeAll(async () => {
  world = await openWorld();
  await fill();
  await rights("rights_vault", EVERYBODY);
  await rights("rights_rooms", EVERYBODY);
});
afterAll(() => world.close());

const rights = (key: string, r: RegisterRights) =>
  sql("update register set rights = $2 where key = $1", [key, JSON.stringify(r)]);

/** Said anew, with nothing of ours: whether somebody is meant. */
async function isMeant(a: Audience, who: string): Promise<boolean> {
  const asked = {
    everybody: "select true as yes",
    department: "select department = $2 as yes from person where id = $1",
    group: "select exists (select from group_member where person_id = $1 and group_key = $2) as yes",
    duty: "select exists (select from register.role_holders where person = $1 and duty = $2) as yes",
    person: "select $1 = $2 as yes",
  }[a.by];
  const of = { everybody: "", ...a } as Record<string, string>;
  const values = a.by === "everybody" ? [] : [who, of[a.by]];
  return (await sql<{ yes: boolean }>(asked, values))[0]!.yes;
}
async function sees(r: RegisterRights, column: string, who: string): Promise<boolean> {
  if (r.keepers.includes(who)) return true;
  const any = async (of: readonly Audience[]) => {
    for (const a of of) if (await isMeant(a, who)) return true;
    return false;
  };
  return (await any(r.see)) && (r.columns[column] === undefined || (await any(r.columns[column])));
}

interface Words {
  hidden: string[];
  seen: string[];
}
async function wordsFor(who: string, all: Record<string, RegisterRights>): Promise<Words> {
  const out: Words = { hidden: [], seen: [] };
  for (const s of [ROOMS, VAULT])
    for (const c of s.columns.filter((x) => x.kind === "text")) {
      const list = (await sees(all[s.key]!, c.id, who)) ? out.seen : out.hidden;
      for (let n = 1; n <= COUNT; n++) list.push(word(s.key.replace("rights_", ""), c.id, n));
    }
  return out;
}

const some = <T>(r: Random, of: readonly T[]): T[] => of.filter(() => r.chance(0.4));

async function randomRights(r: Random, s: RegisterShape): Promise<RegisterRights> {
  const [group] = await sql<{ key: string }>("select group_key as key from group_member limit 1");
  const pool: Audience[] = [
    { by: "department", department: "Learning" },
    { by: "department", department: "Registry" },
    { by: "duty", duty: "Budget holder" },
    { by: "person", person: r.pick(PEOPLE) },
    { by: "person", person: r.pick(PEOPLE) },
    { by: "group", group: group!.key },
  ];
  const audiences = () => some(r, pool);
  return {
    keepers: r.chance(0.3) ? [r.pick(PEOPLE)] : [],
    see: r.chance(0.6) ? [{ by: "everybody" }] : audiences(),
    columns: Object.fromEntries(some(r, s.columns).map((c) => [c.id, audiences()])),
    withdrawn: [],
  };
}

const PAGE = { search: "", filters: [], sort: null, offset: 0, limit: 50 };

/** Everything of registers that somebody can ask for, as it reaches them. */
async function told(actor: Actor, key: string, number: string, task: string | null): Promise<unknown[]> {
  const out: unknown[] = [
    await registerList(actor),
    await lookUp(actor, VAULT.key, ""),
    await find(actor, "word"),
    await requestView(actor, number),
    await draftView(actor, key),
    await sampleValues(actor, key, "s1"),
    await stepPreview(actor, key, "f", "s1"),
    await askPage(actor, key, DRAFTS[actor.id]!),
  ];
  if (task) out.push(await taskView(actor, number, task));
  for (const s of [ROOMS, VAULT]) {
    out.push(await registerPage(actor, s.key, PAGE));
    for (const c of s.columns)
      out.push(await registerPage(actor, s.key, { ...PAGE, sort: { column: c.id, descending: true } }));
    for (let n = 1; n <= COUNT; n++) out.push(await recordPage(actor, s.key, String(n)));
  }
  for (const path of [
    "/registers",
    `/registers/${VAULT.key}/records`,
    `/registers/${VAULT.key}/records/2`,
    `/requests/${number}`,
  ]) {
    const r = await handleApi({
      method: "GET",
      parts: path.split("/").filter(Boolean),
      search: new URLSearchParams(),
      authorization: `Bearer ${KEYS.get(actor.id)}`,
      idempotencyKey: undefined,
      address: "",
      told: null,
      body: (async function* () {})(),
    });
    out.push(r.body.toString());
  }
  return out;
}
const KEYS = new Map<string, string>();
const DRAFTS: Record<string, string> = Object.fromEntries(
  PEOPLE.map((p, i) => [p, `00000000-0000-0000-0000-00000000010${i}`]),
);

it("tells nobody, anywhere, what of a register is hidden from them", async () => {
  const r = new Random(7);
  value(await createProcess(SYSTEM, INNER));
  value(await releaseDraft(SYSTEM, "rights-inner", "1.0.0", ""));
  value(await createProcess(SYSTEM, DEFINITION));
  value(await releaseDraft(SYSTEM, "rights", "1.0.0", ""));
  const asker = await person(ASKER);
  const n = value(await startRequest(asker, "rights", { item: "2" }));
  const [row] = await sql<{
    number: string;
    status: string;
    state: { tasks: Record<string, { status: string }>; stuck: unknown };
  }>("select number, status, state from request where id = $1", [n.id]);
  expect(row!.state.stuck).toEqual([]);
  const task = Object.keys(row!.state.tasks)[0]!;
  for (const p of PEOPLE) KEYS.set(p, value(await makeKey(await person(p), p, "rights")).key);
  for (const p of PEOPLE) value(await saveAskDraft(await person(p), "rights", DRAFTS[p]!, { item: "3" }));
  let [hiddenOnes, shownOnes] = [0, 0];
  for (let round = 0; round < 12; round++) {
    const all = {
      [ROOMS.key]: await randomRights(r, ROOMS),
      [VAULT.key]: await randomRights(r, VAULT),
    };
    for (const [key, of] of Object.entries(all)) await rights(key, of);
    for (const p of PEOPLE) {
      const actor = await person(p);
      const { hidden, seen } = await wordsFor(p, all);
      const answers = await told(actor, "rights", row!.number, p === DECIDER ? task : null);
      answers.forEach((answer, i) => {
        const text = JSON.stringify(answer);
        const leaked = hidden.filter((w) => text.includes(w));
        if (leaked.length > 0)
          throw new Error(
            `${p} is told ${leaked.join(", ")} in answer ${i} under ${JSON.stringify(all)}: ${text.slice(0, 4000)}`,
          );
      });
      const text = JSON.stringify(answers);
      const vaultSeen = await sees(all[VAULT.key]!, "none", p);
      const roomsSeen = await sees(all[ROOMS.key]!, "none", p);
      for (const w of seen)
        if (w.startsWith("vault") ? vaultSeen : roomsSeen) expect([w, text.includes(w)]).toEqual([w, true]);
      hiddenOnes += hidden.length;
      shownOnes += seen.length;
      // What changed in what they do not see has not happened.
      const record = await recordPage(actor, VAULT.key, "2");
      const changes = await Promise.all(["secret", "mark"].map((c) => sees(all[VAULT.key]!, c, p)));
      const [secret, mark] = changes.map(Number) as [number, number];
      if (record.ok) expect(record.value.history).toHaveLength(secret + mark + (secret || mark));
      // A formula over it is none of theirs, nor is a search by it.
      const form = value(await askPage(actor, "rights", DRAFTS[p]!)).form.form;
      const reads =
        secret === 1 && (await sees(all[VAULT.key]!, "room", p)) && (await sees(all[ROOMS.key]!, "code", p));
      expect([p, form.programs["long"]?.worked !== undefined]).toEqual([p, reads]);
      const tried = await sampleValues(actor, "rights", "s1");
      if (tried.ok && tried.value) expect(tried.value.values.some((v) => v.step === "f")).toBe(reads);
      // Nor does asking about it tell.
      for (const w of hidden) {
        const page = await registerPage(actor, w.startsWith("vault") ? VAULT.key : ROOMS.key, {
          ...PAGE,
          search: w,
        });
        expect([w, page.ok ? page.value.total : 0]).toEqual([w, 0]);
        expect(JSON.stringify(await find(actor, w))).not.toContain(w);
      }
      for (const c of VAULT.columns)
        if (!(await sees(all[VAULT.key]!, c.id, p))) {
          const filtered = await registerPage(actor, VAULT.key, {
            ...PAGE,
            filters: [{ column: c.id, value: "" }],
          });
          if (filtered.ok) expect(filtered.value.total).toBe(COUNT);
          const asked = await registerPage(actor, VAULT.key, PAGE, `${c.name} != null`);
          expect(asked.ok).toBe(false);
        }
      if (!(await sees(all[ROOMS.key]!, "code", p))) {
        const asked = await registerPage(actor, VAULT.key, PAGE, 'Room.Door code != "x"');
        expect(asked.ok).toBe(false);
      }
    }
  }
  expect(hiddenOnes).toBeGreaterThan(200);
  expect(shownOnes).toBeGreaterThan(200);
});

describe("what a process reads", () => {
  const only = (column: string, of: Audience[]): RegisterRights => ({
    ...EVERYBODY,
    columns: { [column]: of },
  });
  beforeEach(async () => {
    await rights(ROOMS.key, EVERYBODY);
    await rights(VAULT.key, EVERYBODY);
  });
  let made = 0;
  /** A draft like the others, with what is given to it; owned by OWNER. */
  async function draft(more: Partial<ProcessDefinition>): Promise<string> {
    const key = `reads-${++made}`;
    value(
      await createProcess(SYSTEM, {
        ...DEFINITION,
        key,
        name: key,
        numbering: { prefix: `RD${100 + made}`, digits: 4 },
        samples: [],
        ...more,
      }),
    );
    return key;
  }
  const errors = async (actor: Actor, key: string) =>
    value(await releasePage(actor, key))
      .problems.filter((p) => p.severity === "error")
      .map((p) => p.code);

  it("must be its releaser's to see, wherever it is read, and is kept with the release", async () => {
    const owner = await person(OWNER);
    const formula = (f: string): Partial<ProcessDefinition> => ({
      fields: [
        { id: "item", name: "Item", kind: "look-up", register: VAULT.key },
        { id: "sum", name: "Sum", kind: "yes or no", worked: f },
      ],
      route: [steps.at(-1)!],
    });
    const reading: Partial<ProcessDefinition>[] = [
      formula('Item.Secret = "x"'),
      formula('get value(Item, "Secret") = "x"'),
      formula("count(get entries(Item)) > 2"),
      { ...formula("true"), route: [long("c", "Way", 'Item.Secret = "x"'), steps.at(-1)!] },
      { ...formula("true"), title: "{Item.Secret}", route: [steps.at(-1)!] },
      { ...formula("true"), route: [{ ...steps[0]!, where: 'Secret = "x"' } as Step, steps.at(-1)!] },
      {
        ...formula("true"),
        route: [{ ...steps[0]!, where: "true", sort: [{ column: "secret" }] } as Step, steps.at(-1)!],
      },
      {
        ...formula("true"),
        route: [{ ...(write("x", "mark") as object), must: 'Secret = "x"' } as Step, steps.at(-1)!],
      },
    ];
    for (const more of reading) {
      const key = await draft(more);
      await rights(VAULT.key, only("secret", [{ by: "person", person: OFFICE }]));
      expect([more, await errors(owner, key)]).toEqual([more, ["may-not-see"]]);
      expect(await releaseDraft(owner, key, "1.0.0", "")).toMatchObject({ failure: { code: "has-errors" } });
      await rights(VAULT.key, only("secret", [{ by: "person", person: OWNER }]));
      expect([more, await errors(owner, key)]).toEqual([more, []]);
      value(await releaseDraft(owner, key, "1.0.0", ""));
      const [kept] = await sql<{ reads: Record<string, string[]> }>(
        "select reads from process_release where process_key = $1",
        [key],
      );
      expect(kept!.reads[VAULT.key]).toContain("secret");
    }
    // What the register is called by is read by each look-up; the register as a whole, too.
    const key = await draft(formula("true"));
    await rights(VAULT.key, only("secret", []));
    expect(await errors(owner, key)).toEqual([]);
    await rights(VAULT.key, only("mark", []));
    expect(await errors(owner, key)).toEqual(["may-not-see"]);
    await rights(VAULT.key, NOBODY);
    expect(await errors(owner, key)).toEqual(["may-not-see"]);
    await rights(VAULT.key, { ...NOBODY, keepers: [OWNER] });
    expect(await errors(owner, key)).toEqual([]);
  });

  it("may be withdrawn: what runs stops where it would read it, says why, and goes on when let again", async () => {
    const key = await draft({ route: [steps[0]!, steps.at(-1)!] });
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
    const asker = await person(ASKER);
    const state = async (id: string) =>
      (
        await sql<{
          state: { status: string; stuck: { reason: { code: string; data: { message: string } } }[] };
        }>("select state from request where id = $1", [id])
      )[0]!.state;
    await rights(VAULT.key, { ...EVERYBODY, withdrawn: [key] });
    const stopped = value(await startRequest(asker, key, { item: "1" }));
    expect(await state(stopped.id)).toMatchObject({
      status: "stuck",
      stuck: [
        {
          reason: {
            code: "cannot-find",
            data: { message: "Vault may not be read by this process any more." },
          },
        },
      ],
    });
    expect(await errors(await person(OWNER), key)).toContain("withdrawn");
    await rights(VAULT.key, EVERYBODY);
    const runs = value(await startRequest(asker, key, { item: "1" }));
    expect((await state(runs.id)).status).toBe("finished");
  });
});

describe("saying who may see a register", () => {
  it("is for those who look after it, and for the office; what others changed is not written over", async () => {
    const before: RegisterRights = { ...EVERYBODY, keepers: [DECIDER] };
    await rights(ROOMS.key, before);
    const keeper = await person(DECIDER);
    const next: RegisterRights = { ...before, see: [{ by: "department", department: "Registry" }] };
    expect(await rightsPage(await person(ASKER), ROOMS.key)).toMatchObject({
      failure: { code: "not-found" },
    });
    expect(await setRegisterRights(await person(ASKER), ROOMS.key, before, next)).toMatchObject({
      failure: { code: "not-found" },
    });
    value(await setRegisterRights(keeper, ROOMS.key, before, next));
    expect(value(await rightsPage(await person(OFFICE), ROOMS.key)).rights).toEqual(next);
    expect(await setRegisterRights(await person(OFFICE), ROOMS.key, before, before)).toMatchObject({
      failure: { code: "invalid" },
    });
    // The office says who sees it, and does not see it for that.
    expect(await registerPage(await person(OFFICE), ROOMS.key, PAGE)).toMatchObject({
      failure: { code: "not-found" },
    });
    expect((await registerList(await person(OFFICE))).find((r) => r.shape.key === ROOMS.key)).toMatchObject({
      count: null,
      shape: { columns: [] },
    });
    const wrongs: Partial<RegisterRights>[] = [
      { keepers: ["nobody.known"] },
      { see: [{ by: "group", group: "no-such-group" }] },
      { see: [{ by: "person", person: "" }] },
      { columns: { nothing: [] } },
    ];
    for (const wrong of wrongs)
      expect(await setRegisterRights(keeper, ROOMS.key, next, { ...next, ...wrong })).toMatchObject({
        failure: { code: "invalid" },
      });
    // Whoever takes themselves out is out.
    value(await setRegisterRights(keeper, ROOMS.key, next, { ...next, keepers: [] }));
    expect(await rightsPage(keeper, ROOMS.key)).toMatchObject({ failure: { code: "not-found" } });
  });
});

describe("what is kept of a request for everybody to read", () => {
  const each = (list: string, steps: Step[]): Step =>
    ({
      id: "e",
      name: "Each",
      kind: "for each",
      over: { list },
      item: "One",
      bodies: [{ id: "e-b", steps }],
    }) as Step;
  const ask: Step = { ...steps.find((s) => s.id === "d")! };
  const tried: [string, Step[], string[]][] = [
    [
      "a value",
      [
        {
          id: "w",
          name: "Sum",
          kind: "work out",
          set: [{ field: "note", value: "string(number(Item.Secret))" }],
        } as Step,
      ],
      ["secret"],
    ],
    [
      "a field",
      [{ id: "w", name: "Sum", kind: "work out", set: [{ field: "note", value: "string(Amount)" }] } as Step],
      ["secret"],
    ],
    ["a condition", [long("c", "Way", "number(Item.Room.Door code) > 1")], ["code"]],
    [
      "a search, record by record",
      [{ ...steps[0]!, where: "number(Secret) > string length(Mark)" } as Step],
      ["secret"],
    ],
    ["names of rounds", [each("Pieces", [ask])], ["mark", "name"]],
  ];
  const everything = [...ROOMS.columns, ...VAULT.columns].filter((c) => c.kind === "text").map((c) => c.id);
  it.each(tried)("tells nothing that is hidden from somebody: %s", async (_, route, told) => {
    const pieces = { ...steps[0]!, id: "p", where: "true" } as Step;
    const names = route[0]!.kind === "for each" ? [pieces, ...route] : route;
    const run = async (hidden: boolean) => {
      const only = (ids: string[]): RegisterRights => ({
        ...EVERYBODY,
        columns: hidden
          ? Object.fromEntries(
              ids.filter((id) => told.includes(id)).map((id) => [id, [{ by: "person", person: OWNER }]]),
            )
          : {},
      });
      await rights(ROOMS.key, only(ROOMS.columns.map((c) => c.id)));
      await rights(VAULT.key, only(VAULT.columns.map((c) => c.id)));
      const key = `told-${++made}`;
      value(
        await createProcess(SYSTEM, {
          ...DEFINITION,
          key,
          name: key,
          numbering: { prefix: `TD${100 + made}`, digits: 4 },
          samples: [],
          fields: [
            ...DEFINITION.fields,
            { id: "amount", name: "Amount", kind: "number", worked: "number(Item.Secret)" },
          ],
          route: [...names, steps.at(-1)!],
        }),
      );
      value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
      const n = value(await startRequest(await person(ASKER), key, { item: "1" }));
      const [kept] = await sql<{ state: { stuck: unknown[]; scopes: Record<string, { name: string }> } }>(
        "select state from request where id = $1",
        [n.id],
      );
      const { stuck, scopes } = kept!.state;
      return JSON.stringify([stuck, Object.values(scopes).map((x) => x.name)]);
    };
    const words = (text: string) =>
      everything.filter(
        (c) => told.includes(c) && (text.includes(word("vault", c, 1)) || text.includes(word("rooms", c, 1))),
      );
    // Where everybody may see it, it is told; what nobody is told where not is the same.
    expect(words(await run(false))).not.toEqual([]);
    expect(words(await run(true))).toEqual([]);
  });
  let made = 0;
});
