import { KINDS } from "@/kinds";
import type { OfficeFacts } from "../kinds";
import type { Assignment, ProcessDefinition, Step } from "../route";
import { CheckCache, problemsOf } from ".";

const OFFICE: OfficeFacts = {
  people: [
    { id: "una", name: "Una", manager: "brendan" },
    { id: "brendan", name: "Brendan", manager: null },
  ],
  groups: { registry: ["una"], ghosts: [] },
  duties: { Guard: 1 },
  calendars: ["office"],
  mailboxes: [],
};

const fin: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
const decision = (id: string, who: Assignment): Step => ({
  id,
  name: id,
  kind: "decide",
  who,
  answers: [{ id: `${id}-yes`, label: "Yes", tone: "agree", steps: [] }],
});
const GUARD: Assignment = { rule: { by: "duty", duty: "Guard" }, how: "one" };

const definition = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "t",
  name: "Test",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "TEST", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  samples: [],
  access: {},
  fields: [],
  route: [...route, fin],
  ...more,
});
const found = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {}, office: OFFICE, cache: new CheckCache() }).map(
    (p) => `${p.where.id} ${p.where.place ?? ""} ${p.severity} ${p.code}`,
  );

describe("whom a step asks", () => {
  it("must be somebody", () => {
    expect(
      found(definition([decision("d", { rule: { by: "group", group: "ghosts" }, how: "one" })])),
    ).toEqual(["d who error empty-group"]);
    expect(found(definition([decision("d", GUARD)]))).toEqual([]);
  });
  it("and so must the fallback: it is there for when nobody else is", () => {
    const fallback = { by: "group", group: "ghosts" } as const;
    expect(found(definition([decision("d", { ...GUARD, fallback })]))).toEqual([
      "d fallback error empty-group",
    ]);
    expect(
      found(definition([decision("d", { ...GUARD, fallback: { by: "person", person: "nobody" } })])),
    ).toEqual(["d fallback error no-person"]);
  });
  it("warns of people without a manager only where no fallback saves them", () => {
    const manager: Assignment = { rule: { by: "manager" }, how: "one" };
    expect(found(definition([decision("d", manager)]))).toEqual(["d who warning no-manager"]);
    expect(found(definition([decision("d", { ...manager, fallback: GUARD.rule })]))).toEqual([]);
  });
});

describe("a field read before it is filled in", () => {
  const fields = [{ id: "total", name: "Total", kind: "money" as const }];
  const ask = (id: string): Step =>
    ({ id, name: id, kind: "complete", who: GUARD, text: "", button: "Done" }) as Step;
  const choose = (id: string): Step =>
    ({
      id,
      name: id,
      kind: "choose",
      ways: [{ id: `${id}-w`, when: "Total > 5", steps: [] }],
      otherwise: [],
    }) as unknown as Step;
  const at = (route: Step[], sets: string) =>
    found(
      definition(route, { fields, access: { start: { total: "hide" }, [sets]: { total: "edit" } } }),
    ).filter((p) => p.endsWith("read-before-set"));
  it("is read too early before the step that fills it, and at that very step", () => {
    expect(at([choose("c"), ask("a")], "a")).toHaveLength(1);
    expect(at([ask("a"), choose("c")], "a")).toEqual([]);
    // The step's own formulas are worked out on entering, before anybody has typed anything.
    const asked = {
      ...ask("a"),
      who: { rule: { by: "formula", formula: "if Total > 5 then Requester else null" }, how: "one" },
    } as Step;
    expect(at([asked], "a")).toHaveLength(1);
  });
  it("is never filled in where no step may", () => {
    expect(at([choose("c")], "none")).toHaveLength(1);
  });
});

describe("each problem is found where it stands, and not where all is well", () => {
  const limit = (more: object) => ({
    otherwise: { amount: 1, unit: "working days" as const },
    rungs: [{ id: "r", when: "at" as const, action: { do: "remind" as const } }],
    ...more,
  });
  const limited = (more: object): Step => ({ ...decision("d", GUARD), limit: limit(more) }) as Step;
  const rung = (more: object) =>
    limited({ rungs: [{ id: "r", when: "at", action: { do: "remind" }, ...more }] });
  const number = (more: object) => ({ id: "n", name: "Number asked", kind: "number" as const, ...more });
  const column = { id: "c", name: "Price", kind: "money" as const };
  const lines = (id: string, name: string) => ({
    id,
    name,
    kind: "lines" as const,
    fields: [{ ...column, id: `${id}-c` }],
  });
  it("none where nothing is wrong", () => {
    expect(found(definition([limited({})]))).toEqual([]);
    expect(found(definition([], { fields: [number({ min: "1", max: "2" })] }))).toEqual([]);
    // Two tables may both have a column called Price.
    expect(found(definition([], { fields: [lines("a", "One"), lines("b", "Two")] }))).toEqual([]);
    expect(found(definition([], { calendar: "office" }))).toEqual([]);
  });
  it.each<[string, ProcessDefinition]>([
    ["d limit error bad-limit", definition([limited({ otherwise: { amount: 0, unit: "working days" } })])],
    ["d limit error bad-every", definition([rung({ every: { amount: 0, unit: "working days" }, times: 2 })])],
    ["d limit error rung-answer", definition([rung({ action: { do: "answer", answer: "gone", note: "" } })])],
    ["d who error bad-share", definition([decision("d", { ...GUARD, how: "share", share: 101 })])],
    ["d who error no-who", definition([decision("d", { rule: { by: "formula", formula: "" }, how: "one" })])],
    ["n name error bad-name", definition([], { fields: [number({ name: "net-price" })] })],
    ["n min error no-range", definition([], { fields: [number({ min: "3", max: "2" })] })],
    [
      "m name error name-twice",
      definition([], { fields: [number({}), number({ id: "m", name: "NUMBER ASKED" })] }),
    ],
    [
      "n worked error circle",
      definition([], {
        fields: [
          number({ shown: "Other > 1" }),
          number({ id: "m", name: "Other", worked: "Number asked + 1" }),
        ],
      }),
    ],
    [
      "a-c worked error circle",
      definition([], {
        fields: [
          {
            id: "a",
            name: "One",
            kind: "lines",
            fields: [{ id: "a-c", name: "Price", kind: "money", worked: "Number asked" }],
          },
          number({ worked: "sum(One.Price)" }),
        ],
      }),
    ],
    ["d id error step-twice", definition([decision("d", GUARD), decision("d", GUARD)])],
    ["watch id error bad-id", definition([decision("watch", GUARD)])],
    [
      "x id error id-twice",
      definition([], {
        fields: [
          { id: "x", name: "One", kind: "text" },
          { id: "l", name: "Lines", kind: "lines", fields: [{ id: "x", name: "Two", kind: "text" }] },
        ],
      }),
    ],
    [
      "constructor id error bad-id",
      definition([], { fields: [{ id: "constructor", name: "C", kind: "text" }] }),
    ],
    ["t name error no-name", definition([], { name: " " })],
    ["t numbering error bad-prefix", definition([], { numbering: { prefix: "x", digits: 4 } })],
    ["t owners error no-owner", definition([], { owners: [] })],
    ["t starts error no-start", definition([], { starts: [] })],
    ["t route error no-route", { ...definition([]), route: [] }],
    ["t calendar error no-calendar", definition([], { calendar: "moon" })],
  ])("%s", (wanted, d) => expect(found(d)).toContain(wanted));
  it("a share of all is allowed, a limit of a part of a day too", () => {
    expect(found(definition([decision("d", { ...GUARD, how: "share", share: 100 })]))).toEqual([]);
    expect(found(definition([limited({ otherwise: { amount: 0.5, unit: "working days" } })]))).toEqual([]);
  });
});

it("a mend of a field's check changes that check and no other", () => {
  const checks = [
    { must: "Ask > 1", message: "a" },
    { must: "Askd < 9", message: "b" },
  ];
  const d = definition([], { fields: [{ id: "n", name: "Ask", kind: "number", checks } as never] });
  const [p] = problemsOf(d, { kinds: KINDS, registers: {}, office: OFFICE, cache: new CheckCache() });
  expect(p).toMatchObject({ code: "unknown-name", where: { id: "n", place: "check 1" } });
  expect(p!.mend!.edit).toMatchObject({ op: "field.set", id: "n" });
  const patch = (p!.mend!.edit as unknown as { patch: { checks: { must: string }[] } }).patch;
  expect(patch.checks.map((c) => c.must)).toEqual(["Ask > 1", "Ask < 9"]);
});

it("says where a mail would be taken by two starts: one takes any, or both ask the same", () => {
  const start = (id: string, when?: string) => ({
    ...KINDS.starts.mail.blank(id),
    ...(when === undefined ? {} : { when }),
  });
  const found = (
    starts: ProcessDefinition["starts"],
    others: { mailbox: string; when: string | null }[] = [],
  ) =>
    problemsOf(definition([fin], { mailbox: "a@quillhaven.example", starts }), {
      kinds: KINDS,
      registers: {},
      mailTakers: others.map((o) => ({ ...o, name: "Other" })),
    }).flatMap((p) => (p.code === "mail-taken-twice" ? [p.where.id] : []));
  const box = "a@quillhaven.example";
  const offer = 'contains(Mail.subject, "offer")';
  expect(found([start("m")])).toEqual([]);
  const beside = (when: string, mine = offer) => found([start("m", mine)], [{ mailbox: box, when }]);
  // One mail may say both; where one says that it must not, or both want another sender, none is found.
  expect(beside('contains(Mail.subject, "loan")')).toEqual(["m"]);
  expect(beside('contains(Mail.subject, "loan") and not(contains(Mail.subject, "offer"))')).toEqual([]);
  expect(beside('Mail.sender = "a@x.example"', 'Mail.sender = "b@x.example"')).toEqual([]);
  expect(beside('ends with(Mail.sender, "@x.example")', 'Mail.subject = "Offer"')).toEqual(["m"]);
  expect(beside("Mail.subject =")).toEqual([]);
  expect(found([start("m")], [{ mailbox: "b@quillhaven.example", when: null }])).toEqual([]);
  expect(found([start("m", offer)], [{ mailbox: box, when: null }])).toEqual(["m"]);
  expect(found([start("m")], [{ mailbox: box, when: offer }])).toEqual(["m"]);
  expect(found([start("m", offer)], [{ mailbox: box, when: ` ${offer.replace(", ", ",  ")} ` }])).toEqual([
    "m",
  ]);
  expect(found([start("m", offer), start("n", offer)])).toEqual(["m", "n"]);
  const [said] = problemsOf(
    definition([fin], {
      mailbox: box,
      starts: [start("m", 'ends with(Mail.sender, "@x.example")'), start("n", 'contains(Mail.text, "loan")')],
    }),
    { kinds: KINDS, registers: {} },
  ).filter((p) => p.code === "mail-taken-twice");
  expect(said?.message).toContain(
    "for example one from somebody@x.example with the subject “@x.example loan”",
  );
  // A mail that a sample is of proves it, too: what no word of theirs would make.
  const long = (n: number) => `string length(Mail.text) > ${n}`;
  const mail = { sender: "a@x.example", senderName: "", to: [], subject: "s", text: "longer", files: [] };
  const sampled = (text: string) =>
    problemsOf(
      definition([fin], {
        mailbox: box,
        starts: [start("m", long(3)), start("n", long(4))],
        samples: [{ id: "s", name: "S", requester: "a", data: {}, mail: { ...mail, text } }],
      }),
      { kinds: KINDS, registers: {} },
    ).filter((p) => p.code === "mail-taken-twice").length;
  expect([sampled("longer"), sampled("ab")]).toEqual([2, 0]);
  expect(
    found([{ id: "form", kind: "form", who: { by: "everybody" } }], [{ mailbox: box, when: null }]),
  ).toEqual([]);
});
