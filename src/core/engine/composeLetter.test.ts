import { definitionOf } from "./testRequest";
import { officeFacts } from "./testOffice";
import { letter as letterSchema } from "@/contracts/letter";
import { KINDS } from "@/kinds";
import { personParty, type FormData } from "../form";
import type { Letter, LetterPart } from "../letter";
import { letterPage, tooMuch, writtenText } from "../letter";
import { problemsOf } from "../problems";
import type { ProcessDefinition, Step } from "../route";
import { applyEdit } from "../route";
import { compileRelease, decide, NEW_REQUEST, type Decision } from ".";

const send: Step = {
  ...KINDS.steps.tell.blank("send"),
  who: { by: "requester" },
  mail: {},
  letter: "l",
} as Step;
const letterOf = (parts: LetterPart[], more: Partial<Letter> = {}): Letter => ({
  id: "l",
  name: "Confirmation",
  texts: [{ language: "en", subject: "About {Matter}", parts }],
  ...more,
});
const definition = (letters: Letter[], more: Partial<ProcessDefinition> = {}): ProcessDefinition =>
  definitionOf([send], {
    mailbox: "walls@quillhaven.example",
    fields: [
      { id: "matter", name: "Matter", kind: "text" },
      { id: "urgent", name: "Urgent", kind: "yes or no" },
      { id: "total", name: "Total", kind: "money" },
      { id: "secret", name: "Secret", kind: "text" },
      {
        id: "things",
        name: "Things",
        kind: "lines",
        fields: [
          { id: "what", name: "What", kind: "text" },
          { id: "worth", name: "Worth", kind: "money" },
        ],
      },
    ],
    letters,
    ...more,
  });
const DATA: FormData = {
  matter: "A <vase>",
  total: "1200.5",
  things: [
    { "#": "1", what: "Vase", worth: "1000" },
    { "#": "2", what: "Bowl", worth: "200.5" },
  ],
};
function begun(d: ProcessDefinition, data: FormData = DATA): Extract<Decision, { ok: true }> {
  const release = compileRelease(d, {}, KINDS);
  const command = {
    type: "start" as const,
    actor: "una",
    requester: personParty("una"),
    number: "W-1",
    data,
  };
  const done = decide(release, NEW_REQUEST, command, officeFacts(Date.UTC(2026, 2, 3, 10)));
  if (!done.ok) throw new Error(JSON.stringify(done.refusal));
  return done;
}
function sent(d: ProcessDefinition, data: FormData = DATA) {
  const [e] = begun(d, data).effects;
  if (e?.kind !== "tell" || !e.mail?.letter) throw new Error("no letter");
  return { subject: e.subject, text: e.text, hidden: e.mail.hidden, letter: e.mail.letter };
}
const p = (...runs: (string | { value: string })[]): LetterPart => ({
  part: "paragraph",
  runs: runs.map((r) => (typeof r === "string" ? { text: r } : r)),
});

it("is written with its values, as text and as HTML in which nothing of them is markup", () => {
  const d = definition([
    letterOf([
      { part: "heading", runs: [{ text: "Your request" }] },
      { part: "paragraph", runs: [{ text: "About " }, { value: "Matter", bold: true }, { text: "." }] },
      { part: "list", numbered: true, items: [[{ text: "one" }], [{ value: "Total" }]] },
      {
        part: "paragraph",
        runs: [{ text: "see here", link: "https://quillhaven.example/{Request.number}" }],
      },
    ]),
  ]);
  const { subject, text, letter } = sent(d);
  expect(subject).toBe("About A <vase>");
  expect(text).toBe(
    "Your request\n\nAbout A <vase>.\n\n1. one\n2. 1\u202f200.50\n\nsee here (https://quillhaven.example/W-1)",
  );
  const html = letterPage(letter);
  expect(html).toContain("About <b>A &#60;vase&#62;</b>.");
  expect(html).toContain('<a href="https://quillhaven.example/W-1"');
  expect(html).not.toContain("<vase>");
});

it("says a part only where its condition holds, and repeats one for each thing of a list", () => {
  const d = definition([
    letterOf([
      { part: "when", when: "Urgent", parts: [p("At once.")] },
      {
        part: "each",
        of: "Things",
        as: "Thing",
        parts: [
          { part: "paragraph", runs: [{ value: "Thing.What" }, { text: " of " }, { value: "Matter" }] },
          {
            part: "when",
            when: "Thing.Worth > 500",
            parts: [{ part: "paragraph", runs: [{ text: "Dear!" }] }],
          },
        ],
      },
      {
        part: "lines",
        of: "Things[Worth > 500]",
        as: "Thing",
        columns: [
          { title: "What", value: "Thing.What" },
          { title: "Worth", value: "Thing.Worth" },
        ],
      },
      { part: "lines", of: "Things[Worth > 5000]", as: "Thing", columns: [{ title: "None", value: "1" }] },
    ]),
  ]);
  expect(sent(d).text).toBe(
    "Vase of A <vase>\n\nDear!\n\nBowl of A <vase>\n\nWhat  Worth\n----  --------\nVase  1\u202f000.00",
  );
  expect(sent(d, { ...DATA, urgent: true, things: [] }).text).toBe("At once.");
});

it("is stuck where a condition or a list cannot be worked out, and leaves out a value that cannot", () => {
  const odd = 'number("x" + Matter) > 1';
  const why = (parts: LetterPart[]) => {
    const { state, effects } = begun(definition([letterOf(parts)]));
    return { effects: effects.length, stuck: Object.values(state.stuck).map((s) => s.reason) };
  };
  expect(why([{ part: "when", when: odd, parts: [p("x")] }])).toMatchObject({
    effects: 0,
    stuck: [{ code: "unclear", data: { step: "Confirmation", formula: odd } }],
  });
  expect(
    why([{ part: "each", of: 'for i in 1..number("x" + Matter) return i', as: "T", parts: [] }]),
  ).toMatchObject({ effects: 0 });
  expect(sent(definition([letterOf([p("[", { value: 'number("x" + Matter)' }, "]")])])).text).toBe("[]");
  const long = why([{ part: "each", of: "for i in 1..3000 return i", as: "T", parts: [] }]);
  expect(long).toMatchObject({ effects: 0, stuck: [{ code: "letter-too-long" }] });
});

it("is written in the language that is wanted, else in that without its country, else in the first", () => {
  const text = (language: string) => ({ language, subject: "s", parts: [p(language)] });
  const closing: Letter = { id: "c", name: "Greeting", closes: true, texts: [text("en"), text("ga")] };
  const l = letterOf([], {
    language: "Matter",
    closing: "c",
    texts: [text("en"), text("ga"), text("pt-BR")],
  });
  const d = definition([l, closing]);
  const inWords = (matter: string | null) => sent(d, { ...DATA, matter }).text;
  expect(inWords("GA")).toBe("ga\n\nga");
  expect(inWords("ga-IE")).toBe("ga\n\nga");
  expect(inWords("pt")).toBe("pt-BR\n\nen");
  expect(inWords("de")).toBe("en\n\nen");
  expect(inWords(null)).toBe("en\n\nen");
});

it("tells of something hidden where any formula of what is written does, its conditions too", () => {
  const decides = { ...KINDS.steps.decide.blank("d"), limit: undefined } as Step;
  const hidden = (parts: LetterPart[]) =>
    sent(definition([letterOf(parts)], { route: [send, decides], access: { d: { secret: "hide" } } }), {
      ...DATA,
      secret: "x",
    }).hidden;
  expect(hidden([p("x")])).toBeUndefined();
  expect(hidden([p({ value: "Secret" })])).toBe(true);
  expect(hidden([{ part: "when", when: 'Secret = "y"', parts: [p("x")] }])).toBe(true);
  expect(hidden([{ part: "each", of: "Things[What = Secret]", as: "T", parts: [] }])).toBe(true);
  // Of what is not written nothing is told.
  expect(hidden([{ part: "when", when: "Urgent", parts: [p({ value: "Secret" })] }])).toBeUndefined();
});

it("keeps a link that leads somewhere else for a plain text", () => {
  for (const link of ["javascript:alert(1)", "data:text/html,x", "https://", "/x", "ftp://x.example/"]) {
    const d = definition([letterOf([{ part: "paragraph", runs: [{ text: "here", link: `{"${link}"}` }] }])]);
    expect(sent(d).letter.parts).toEqual([{ part: "paragraph", runs: [{ text: "here" }] }]);
  }
});

it("reads the names of the round it is sent from, where it is sent from nowhere else", () => {
  const each = {
    ...KINDS.steps["for each"].blank("fe"),
    over: { lines: "things" },
    item: "Thing",
    bodies: [{ id: "b", steps: [send] }],
  };
  const inRound = definition([letterOf([p({ value: "Thing.What" })])], { route: [each as unknown as Step] });
  const of = (d: ProcessDefinition) =>
    problemsOf(d, { kinds: KINDS, registers: {} }).filter((x) => x.where.kind === "letter");
  expect(of(inRound)).toEqual([]);
  expect(of({ ...inRound, route: [...inRound.route, { ...send, id: "again" }] })).toMatchObject([
    { severity: "error", where: { id: "l", place: "en 0 0" } },
  ]);
});

it("says what is wrong with letters", () => {
  const codes = (letters: Letter[], route: Step[] = [send]) =>
    problemsOf(definition(letters, { route }), { kinds: KINDS, registers: {} }).flatMap((x) =>
      x.where.kind === "letter" || x.code === "no-letter" ? [x.code] : [],
    );
  expect(codes([letterOf([p("x")])])).toEqual([]);
  expect(codes([])).toEqual(["no-letter"]);
  expect(codes([letterOf([p("x")], { closes: true, byHand: true })])).toEqual(["no-letter"]);
  expect(codes([letterOf([p("")], { name: " " })])).toEqual(["no-name", "empty-letter"]);
  expect(codes([letterOf([p("x")])], [])).toEqual(["letter-unused"]);
  expect(codes([letterOf([p("x")], { byHand: true })], [])).toEqual([]);
  expect(codes([letterOf([p("x")], { closing: "gone" })])).toEqual(["bad-closing"]);
  expect(codes([letterOf([{ part: "paragraph", runs: [{ text: "x", link: "loans" }] }])])).toEqual([
    "bad-link",
  ]);
  for (const lacking of [
    { part: "when", when: "", parts: [p("x")] },
    { part: "when", when: "Urgent", parts: [p({ value: "" }), p("x")] },
    { part: "each", of: "", as: "T", parts: [{ part: "paragraph", runs: [{ text: "x" }] }] },
    { part: "lines", of: "Things", as: "T", columns: [{ title: "x", value: "" }] },
  ] as LetterPart[])
    expect(codes([letterOf([lacking])])).toEqual(["no-formula"]);
  const twice = { language: "en", subject: "", parts: [p("x")] };
  expect(codes([letterOf([], { texts: [twice, { ...twice, language: "EN", subject: "s" }] })])).toEqual([
    "no-subject",
    "language-twice",
    "no-language",
  ]);
  // Read before it is set, by whoever sends it.
  const fills = { ...KINDS.steps.complete.blank("fill"), name: "Fill" } as Step;
  const late = definition([letterOf([p({ value: "Secret" })])], {
    route: [send, fills],
    access: { start: { secret: "hide" }, fill: { secret: "edit" } },
  });
  expect(problemsOf(late, { kinds: KINDS, registers: {} })).toContainEqual(
    expect.objectContaining({ code: "read-before-set", where: { kind: "letter", id: "l", place: "en 0 0" } }),
  );
});

it("goes along with a field that is called otherwise, in texts, conditions, lists and columns", () => {
  const d = definition([
    letterOf([
      { part: "when", when: 'Matter = "x"', parts: [{ part: "paragraph", runs: [{ value: "Matter" }] }] },
      {
        part: "lines",
        of: "Things[What = Matter]",
        as: "Matters",
        columns: [{ title: "Matter", value: "Matters.What + Matter" }],
      },
    ]),
  ]);
  const r = applyEdit(
    d,
    { op: "field.rename", id: "matter", name: "Subject" },
    { registers: {}, kinds: KINDS },
  );
  if (!r.ok) throw new Error(r.refusal.code);
  expect(r.definition.letters![0]!.texts[0]).toEqual({
    language: "en",
    subject: "About {Subject}",
    parts: [
      { part: "when", when: 'Subject = "x"', parts: [{ part: "paragraph", runs: [{ value: "Subject" }] }] },
      {
        part: "lines",
        of: "Things[What = Subject]",
        as: "Matters",
        columns: [{ title: "Matter", value: "Matters.What + Subject" }],
      },
    ],
  });
  const column = applyEdit(
    d,
    { op: "field.rename", id: "what", name: "Name" },
    { registers: {}, kinds: KINDS },
  );
  if (!column.ok) throw new Error(JSON.stringify(column.refusal));
  expect(JSON.stringify(column.definition.letters)).toContain("Matters.Name + Matter");
  const back = applyEdit(r.definition, r.inverse, { registers: {}, kinds: KINDS });
  expect(back.ok && back.definition).toEqual(d);
});

it("leaves text for programs that show no table", () => {
  const cell = (text: string) => [{ text }];
  const wide = "x".repeat(50);
  expect(
    writtenText([
      {
        part: "table",
        rows: [
          [cell("A"), cell("B")],
          [cell("1"), cell("2")],
        ],
      },
    ]),
  ).toBe("A  B\n-  -\n1  2");
  expect(
    writtenText([
      {
        part: "table",
        rows: [
          [cell("A"), cell("B")],
          [cell(wide), cell(wide)],
        ],
      },
    ]),
  ).toBe(`- A: ${wide}\n  B: ${wide}`);
});

it("says what is too much before the schema refuses it, and nothing less", () => {
  const runs = (n: number, length = 1) => Array.from({ length: n }, () => ({ text: "x".repeat(length) }));
  const paragraphs = (n: number): LetterPart[] =>
    Array.from({ length: n }, () => ({ part: "paragraph", runs: [] }));
  const nested = (n: number): LetterPart[] =>
    n === 0 ? [p("x")] : [{ part: "when", when: "Urgent", parts: nested(n - 1) }];
  const table = (rows: number, columns: number): LetterPart => ({
    part: "table",
    rows: Array.from({ length: rows }, () => Array.from({ length: columns }, () => [])),
  });
  const columns = (n: number) => Array.from({ length: n }, () => ({ title: "x", value: "1" }));
  const list = (n: number): LetterPart => ({ part: "list", items: Array.from({ length: n }, () => []) });
  const lines = (n: number): LetterPart => ({ part: "lines", of: "Things", as: "T", columns: columns(n) });
  const each = (n: number): LetterPart => ({
    part: "each",
    of: "Things",
    as: "T",
    parts: paragraphs(n) as never,
  });
  const both: [LetterPart[], LetterPart[]][] = [
    [paragraphs(200), paragraphs(201)],
    [[{ part: "paragraph", runs: runs(200) }], [{ part: "paragraph", runs: runs(201) }]],
    [[p("x".repeat(10_000))], [p("x".repeat(10_001))]],
    [[list(100)], [list(101)]],
    [[table(60, 12)], [table(61, 12)]],
    [[table(60, 12)], [table(60, 13)]],
    [[lines(12)], [lines(13)]],
    [[each(60)], [each(61)]],
    [nested(6), nested(7)],
  ];
  for (const [fits, exceeds] of both) {
    const kept = (parts: LetterPart[]) => letterSchema.safeParse(letterOf(parts)).success;
    expect([tooMuch(fits), kept(fits)]).toEqual([null, true]);
    expect(tooMuch(exceeds)).toMatch(/at most/i);
    // How deep conditions stand the schema leaves to the limit of all documents.
    expect(kept(exceeds)).toBe(exceeds[0]!.part === "when");
  }
});
