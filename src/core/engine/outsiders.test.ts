import { outsideAccount } from "../form";
import { forgetEvents, NEW_REQUEST, outsiderName, replay } from ".";
import { personalFields } from "./forget";
import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, proceduresOf, YES_NO } from "./testRequest";

const at = (to: string, name?: string): Rule => ({ by: "outside", to, ...(name ? { name } : {}) });
const FIELDS = {
  fields: [
    { id: "mail", name: "Mail", kind: "text" as const },
    { id: "who", name: "Who", kind: "text" as const },
    { id: "total", name: "Total", kind: "money" as const },
  ],
};
const begun = (rule: Rule, data: Record<string, string | null>, who: Partial<Assignment> = {}, more = {}) => {
  const step = { ...decideBy("check", rule, YES_NO("1")), who: { rule, how: "one", ...who } } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")], { ...FIELDS, ...more }));
  h.start(data);
  return h;
};
const account = (email: string) => outsideAccount("TEST-0001", email);
const ADA = "ada@byrne.example";

it("whoever has an address is asked by an account of this request, however the address is written", () => {
  const h = begun(at("Mail", "Who"), { mail: ` ${ADA.toUpperCase()} `, who: " Ada   Byrne " });
  expect(h.asked()).toEqual([account(ADA)]);
  expect(h.state.outsiders).toEqual({ [account(ADA)]: { name: "Ada Byrne", email: ADA.toUpperCase() } });
  expect(account(ADA)).not.toBe(outsideAccount("TEST-0002", ADA));
  // Such an id is one a person may have.
  expect(account(ADA)).toMatch(/^[a-z0-9][a-z0-9.-]{0,59}$/);
});

it("several at one address have one vote, and each of several addresses one", () => {
  const rule = at(`["${ADA}", "Ada@Byrne.example", "bo@hollins.example"]`);
  const h = begun(rule, {}, { how: "all" });
  expect(h.asked()).toEqual([account(ADA), account("bo@hollins.example")].sort());
  h.answer(account(ADA), "approve");
  expect(h.state.status).toBe("under way");
  h.answer(account("bo@hollins.example"), "approve");
  expect(h.state.status).toBe("finished");
});

it("an address of somebody who works here asks them as they are, and never one's own request", () => {
  expect(begun(at("Mail"), { mail: "Carmel@quillhaven.example" }).asked()).toEqual(["carmel"]);
  // una asked.
  expect(begun(at("Mail"), { mail: "una@quillhaven.example" }).state.status).toBe("stuck");
  expect(begun(at("Mail"), { mail: "una@quillhaven.example" }, { instead: "manager" }).asked()).toEqual([
    "brendan",
  ]);
});

it("whoever worked here and has left is nobody, not somebody outside", () => {
  const h = harness(
    definitionOf([{ ...decideBy("check", at("Mail"), YES_NO("1")) } as Step, fin("end", "approved")], FIELDS),
  );
  h.left.add("carmel");
  h.start({ mail: "carmel@quillhaven.example" });
  expect(h.state.stuck[0]?.reason.code).toBe("nobody");
});

it("what is no address stops it with the reason, also beside others that are", () => {
  const h = begun(at(`[Mail, "${ADA}"]`), { mail: "no address" });
  expect(h.state.stuck[0]?.reason).toMatchObject({
    code: "unclear",
    data: { why: "“no address” is no address; one reads like registry@example.org." },
  });
  expect(h.state.tasks).toEqual({});
});

it("nobody stands at an empty address, and then another rule is gone by", () => {
  expect(begun(at("Mail"), { mail: null }).state.stuck[0]?.reason.code).toBe("nobody");
  const fallback = { fallback: { by: "person", person: "carmel" } as Rule };
  expect(begun(at("Mail"), { mail: null }, fallback).asked()).toEqual(["carmel"]);
  const first: Rule = { by: "several", take: "first", of: [at("Mail") as never, at(`"${ADA}"`) as never] };
  expect(begun(first, { mail: null }).asked()).toEqual([account(ADA)]);
});

it("whoever asked from outside is not asked about their own, though nothing has shown the address to be theirs", () => {
  const run = (unsure: boolean, who: Partial<Assignment> = {}) => {
    const step = {
      ...decideBy("check", at("Mail"), YES_NO("1")),
      who: { rule: at("Mail"), how: "one", ...who },
    };
    const h = harness(definitionOf([step as Step, fin("end", "approved")], FIELDS));
    const through = "visitor.0123";
    h.send({
      type: "start",
      actor: through,
      requester: {
        kind: "outside",
        name: "Ada",
        email: ADA,
        through,
        follows: "letters",
        ...(unsure ? { unsure } : {}),
      },
      number: "TEST-0001",
      data: { mail: ADA },
    });
    return h;
  };
  expect(run(false).state.status).toBe("stuck");
  expect(run(true).state.status).toBe("stuck");
  expect(run(true, { requesterToo: true }).asked()).toEqual([account(ADA)]);
});

it("nothing is handed to them, nor are they asked beside a task; what they answered is read without an id", () => {
  const steps = [
    { ...decideBy("sign", at("Mail", "Who"), YES_NO("1")), name: "Sign" } as Step,
    decideBy("next", { by: "person", person: "carmel" }, [
      ans("yes", "agree"),
      ans("no", "refuse", [fin("f2", "no", "refuse")]),
    ]),
    decideBy("last", { by: "formula", formula: "Sign.by" }, YES_NO("9")),
    fin("end", "approved"),
  ];
  const h = harness(definitionOf(steps, { ...FIELDS, title: "{Sign.by.name} for {Sign.by.email}" }));
  h.start({ mail: ADA, who: "Ada" });
  h.answer(account(ADA), "approve");
  expect(h.title()).toBe(`Ada for ${ADA}`);
  const task = h.open()[0]!.id;
  expect(h.send({ type: "hand over", actor: "carmel", task, to: account(ADA), note: "" })).toMatchObject({
    ok: false,
  });
  expect(h.send({ type: "ask", actor: "carmel", task, to: account(ADA), note: "?" })).toMatchObject({
    ok: false,
    refusal: { code: "cannot-ask" },
  });
  h.answer("carmel", "yes");
  // They are nobody of the office, whatever a formula comes to.
  expect(h.state.stuck[0]?.reason.code).toBe("nobody");
});

it("whoever has answered a step from outside can be asked again, and be kept apart", () => {
  const again = (who: Partial<Assignment>) => {
    const steps = [
      { ...decideBy("sign", at("Mail"), YES_NO("1")), name: "Sign" } as Step,
      {
        ...decideBy("last", at("Mail"), YES_NO("9")),
        who: { rule: { by: "answered", step: "sign" }, how: "one", ...who },
      } as Step,
      fin("end", "approved"),
    ];
    const h = harness(definitionOf(steps, FIELDS));
    h.start({ mail: ADA });
    h.answer(account(ADA), "approve");
    return h;
  };
  expect(again({}).asked()).toEqual([account(ADA)]);
  expect(again({ never: [{ by: "answered", step: "sign" }] }).state.status).toBe("stuck");
});

it("is known by nothing that is hidden from somebody", () => {
  const called = (hidden: string[], data: Record<string, string>) => {
    const access = { check: Object.fromEntries(hidden.map((f) => [f, "hide" as const])) };
    const h = begun(at("Mail", "Who"), data, {}, { access, title: "{check.by.name}, {check.by.email}" });
    h.answer(account(ADA), "approve");
    return [outsiderName(Object.values(h.state.outsiders!)[0]!), h.title()];
  };
  const data = { mail: ADA, who: "Ada" };
  expect(called([], data)).toEqual(["Ada", `Ada, ${ADA}`]);
  expect(called(["who"], data)).toEqual([ADA, `${ADA}, ${ADA}`]);
  expect(called(["mail"], data)).toEqual(["Ada", "Ada,"]);
  expect(called(["who", "mail"], data)).toEqual(["Somebody outside", "Somebody outside,"]);
});

it("is forgotten with what is personal, whatever the form says of its fields, and folds the same", () => {
  const h = begun(at("Mail"), { mail: ADA });
  h.answer(account(ADA), "approve");
  const forgetting = { fields: personalFields(h.release), inCalls: true, asker: true, notesOf: null };
  // No field is marked: the value stays, and who they are goes.
  const gone = forgetEvents(h.events, h.release, forgetting);
  expect(replay(gone, NEW_REQUEST).outsiders).toEqual({ [account(ADA)]: { name: "…", email: "" } });
  expect(forgetEvents(gone, h.release, forgetting)).toEqual(gone);
  const fields = FIELDS.fields.map((f) => (f.id === "mail" ? { ...f, personal: true as const } : f));
  const marked = begun(at("Mail"), { mail: ADA }, {}, { fields });
  marked.answer(account(ADA), "approve", "Gladly");
  const all = forgetEvents(marked.events, marked.release, {
    ...forgetting,
    fields: personalFields(marked.release),
  });
  expect(JSON.stringify(all)).not.toContain("byrne");
  // Where only somebody's notes go, whom it asked is still known.
  const notes = forgetEvents(marked.events, marked.release, {
    fields: new Set(),
    inCalls: false,
    asker: false,
    notesOf: account(ADA),
  });
  expect(JSON.stringify(notes)).not.toContain("Gladly");
  expect(replay(notes, NEW_REQUEST).outsiders).toEqual(marked.state.outsiders);
});

it("what they were written goes with them", () => {
  const asks = decideBy("check", at("Mail", "Who"), YES_NO("1"));
  const step = { ...asks, byMail: { subject: "Your loan", text: "Dear {Who}," } } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")], FIELDS));
  h.start({ mail: ADA, who: "Ada" });
  h.answer(account(ADA), "approve");
  const letters = (events: typeof h.events) =>
    events.flatMap((e) => (e.type === "visit opened" ? [e.visit.letter?.text] : []));
  const none = { fields: new Set<string>(), inCalls: true, notesOf: null };
  expect(letters(h.events)).toEqual(["Dear Ada,"]);
  expect(letters(forgetEvents(h.events, h.release, { ...none, asker: true }))).toEqual([""]);
  expect(letters(forgetEvents(h.events, h.release, { ...none, asker: false }))).toEqual(["Dear Ada,"]);
});

it("is called by the first name that is said of them, also by a later step", () => {
  const steps = [
    decideBy("one", at("Mail"), [ans("ok", "agree")]),
    decideBy("two", at("Mail", "Who"), [ans("ok", "agree")]),
    decideBy("three", at("Mail", '"Somebody else"'), YES_NO("1")),
  ];
  const h = harness(definitionOf([...steps, fin("end", "approved")], FIELDS));
  h.start({ mail: ADA, who: "Ada" });
  expect(h.state.outsiders![account(ADA)]!.name).toBe("");
  h.answer(account(ADA), "ok");
  h.answer(account(ADA), "ok");
  expect(h.state.outsiders![account(ADA)]!.name).toBe("Ada");
});

it("is known to the request when the procedure that asked them is over", () => {
  const inner = definitionOf([decideBy("i", at(`"${ADA}"`, '"Ada"'), [ans("ok", "agree")])], {
    key: "inner",
    procedure: true,
    starts: [],
    fields: [],
  });
  const call = {
    id: "h",
    name: "Hand",
    kind: "hand to",
    procedure: "inner",
    takes: [],
    gives: [],
    values: [],
  };
  const outer = definitionOf([call as unknown as Step, fin("z", "done")]);
  const h = harness(outer, {}, {}, undefined, proceduresOf({ inner: [inner] }));
  h.start();
  h.answer(account(ADA), "ok");
  expect(h.state.status).toBe("finished");
  expect(h.state.outsiders).toEqual({ [account(ADA)]: { name: "Ada", email: ADA } });
});
