import { personParty } from "../form";
import { KINDS } from "@/kinds";
import type { Field } from "../form";
import type { Step } from "../route";
import { compileRelease, decide, isOpen, NEW_REQUEST, type Command, type RequestState } from ".";
import { joinParts, partsChanged, type Part } from "./parts";
import { officeFacts } from "./testOffice";
import { PartsKept } from "./testParts";
import { ans, decideBy, definitionOf, fin, T0 } from "./testRequest";

const FIELDS: Field[] = [
  { id: "said", name: "Said", kind: "long text" },
  { id: "number", name: "Number", kind: "number" },
];
const asks = (answers = [ans("yes", "agree")]): Step =>
  decideBy("d", { by: "person", person: "carmel" }, answers);
const each = (steps: Step[], more: object = {}): Step =>
  ({
    ...KINDS.steps["for each"].blank("f"),
    over: { list: "[1, 2, 3, 4, 5, 6]" },
    item: "Turn",
    ...more,
    bodies: [{ id: "b", steps }],
  }) as Step;
const set = (field: string, value: string): Step => ({
  id: `set-${field}`,
  name: `Set ${field}`,
  kind: "work out",
  set: [{ field, value }],
});

/** A request that is only ever read as far as a command needs it, beside the same read whole each time. */
function both(...route: Step[]) {
  const release = compileRelease(definitionOf([...route, fin("e", "done")], { fields: FIELDS }), {}, KINDS);
  const kept = new PartsKept();
  let state: RequestState = NEW_REQUEST;
  const send = (c: Command) => {
    const whole = decide(release, state, c, officeFacts(T0));
    if (!whole.ok) throw new Error(JSON.stringify(whole.refusal));
    if (c.type === "start") kept.keep(null, whole.state);
    else expect(kept.decide(release, c, officeFacts(T0))).toMatchObject({ events: whole.events });
    state = whole.state;
    expect(kept.all()).toEqual(JSON.parse(JSON.stringify(state)));
  };
  send({ type: "start", actor: "una", requester: personParty("una"), number: "T-1", data: {} });
  const answer = (which: number, way = "yes", note = "") => {
    const task = Object.values(state.tasks).filter(isOpen)[which]!;
    send({ type: "answer", actor: "carmel", task: task.id, answer: way, note, data: {} });
  };
  return { kept, answer, state: () => state };
}

it("a round that is stuck makes room for another, though it was not read", () => {
  // The first round cannot set what it is told to and stands stuck; two are under way beside it.
  const h = both(each([asks(), set("number", 'if Turn = 1 then number("x") else Turn')], { atOnce: 2 }));
  expect(Object.values(h.state().tasks).filter(isOpen)).toHaveLength(2);
  h.answer(0);
  expect(h.state().stuck).toHaveLength(1);
  expect(Object.values(h.state().tasks).filter(isOpen)).toHaveLength(2);
  h.answer(0);
  expect(Object.values(h.state().tasks).filter(isOpen)).toHaveLength(2);
  expect(h.kept.wholly).toBeGreaterThan(0);
});

it("a formula reads what was answered the last time, however often that was", () => {
  const back: Step = { id: "j", name: "Back", kind: "jump", to: "d" };
  const h = both(
    asks([ans("yes", "agree"), ans("again", "plain", [back])]),
    decideBy("later", { by: "person", person: "carmel" }, [ans("yes", "agree")]),
    set("said", 'string join(for a in d.answers return a.note, ", ")'),
    // Somebody is still asked: where all of it ends, all of it is read.
    decideBy("last", { by: "person", person: "carmel" }, [ans("yes", "agree")]),
  );
  for (let i = 0; i < 40; i++) h.answer(0, "again", `time ${i}`);
  h.answer(0, "yes", "the last");
  h.answer(0);
  expect(h.state().data["said"]).toBe("the last");
});

it("what is over is put away, so that what is read does not grow", () => {
  const back: Step = { id: "j", name: "Back", kind: "jump", to: "d" };
  const h = both(asks([ans("yes", "agree"), ans("again", "plain", [back])]));
  const sizes = Array.from({ length: 30 }, () => {
    h.answer(0, "again");
    return JSON.stringify(partsChanged(null, h.state()).root).length;
  });
  expect(sizes.at(-1)! - sizes[5]!).toBeLessThan(20);
});

it("parts are put together in the order in which things came, in whatever order they are read", () => {
  const h = both(each([asks()]));
  const { root, written } = partsChanged(null, h.state());
  expect(written).toHaveLength(6);
  const shuffled: Part[] = [...written.slice(3), ...written.slice(0, 3)].reverse();
  const joined = joinParts(root, shuffled, true);
  expect(joined).toEqual(h.state());
  for (const map of ["tokens", "tasks", "visits", "scopes"] as const)
    expect(Object.keys(joined[map])).toEqual(Object.keys(h.state()[map]));
});

it("what was answered each time is there too, though tasks of earlier times are not read with a part", () => {
  const again: Step = { id: "j", name: "Again", kind: "jump", to: "d" };
  const answers = [
    { ...ans("no", "refuse"), steps: [set("number", "count(d.all answers)"), again] },
    ans("yes", "agree"),
  ];
  const list = 'string join(for a in d.all answers return a.answer + a.note, " ")';
  const h = both(each([asks(answers), set("said", list)]));
  expect(h.state().data["said"] ?? null).toBeNull();
  // Of six rounds the first is asked anew each time, behind the others.
  h.answer(0, "no", "1");
  h.answer(5, "no", "2");
  expect(h.state().data["number"]).toBe("2");
  h.answer(0, "no", "other");
  expect(h.state().data["number"]).toBe("1");
  h.answer(4, "yes", "3");
  expect(h.state().data["said"]).toContain("no1 no2 yes3");
  expect(h.kept.wholly).toBeGreaterThan(0);
});
