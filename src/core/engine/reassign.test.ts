import type { Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const give = (h: ReturnType<typeof harness>, to: string, note = "Left in May", task = h.open()[0]!.id) =>
  h.send({ type: "reassign", actor: "owner", task, to, note });
const asked = () => {
  const h = harness(
    definitionOf([decideBy("d", { by: "person", person: "brendan" }, YES_NO("d")), fin("end", "approved")]),
  );
  h.start();
  return h;
};

describe("an owner gives a task to somebody else", () => {
  it("whoever has it, with the reason on the trail", () => {
    const h = asked();
    expect(give(h, "carmel").ok).toBe(true);
    expect(h.asked()).toEqual(["carmel"]);
    expect(h.events.at(-1)).toMatchObject({ type: "task handed over", by: "owner", note: "Left in May" });
    expect(h.answer("carmel", "approve").ok).toBe(true);
    expect(h.state.result?.name).toBe("approved");
  });
  it("not without a reason, not to the requester, not to whoever has it, not once it is over", () => {
    const h = asked();
    expect(give(h, "carmel", "  ")).toMatchObject({ refusal: { code: "note-needed" } });
    expect(give(h, "una")).toMatchObject({ refusal: { code: "own-request" } });
    expect(give(h, "brendan")).toMatchObject({ refusal: { code: "same-person" } });
    expect(give(h, "nobody")).toMatchObject({ refusal: { code: "same-person" } });
    expect(give(h, "carmel", "x", "t99")).toMatchObject({ refusal: { code: "unknown-task" } });
    const task = h.open()[0]!.id;
    h.answer("brendan", "approve");
    expect(give(h, "carmel", "x", task).ok).toBe(false);
  });
  it("also changes asked of a requester who left", () => {
    const back = ans("back", "plain", [], { returns: true });
    const h = harness(
      definitionOf([
        decideBy("d", { by: "person", person: "brendan" }, [...YES_NO("d"), back]),
        fin("end", "approved"),
      ]),
    );
    h.start();
    h.answer("brendan", "back");
    expect(h.asked()).toEqual(["una"]);
    expect(give(h, "carmel").ok).toBe(true);
    expect(h.asked()).toEqual(["carmel"]);
  });
});

describe("what each of those asked has said", () => {
  const route = (when: string): Step[] => [
    {
      ...decideBy("Check", { by: "group", group: "registry" }, [
        ans("yes", "agree"),
        ans("no", "refuse"),
        ans("again", "plain", [], { returns: true }),
      ]),
      who: { rule: { by: "group", group: "registry" }, how: "share", share: 50 },
    } as Step,
    {
      id: "c",
      name: "By answers",
      kind: "choose",
      ways: [
        { id: "w", name: "all", when, steps: [fin("f1", "as asked")] },
        { id: "o", name: "otherwise", steps: [] },
      ],
    },
    fin("end", "otherwise"),
  ];
  const decided = (when: string, first: string[] = []) => {
    const h = harness(definitionOf(route(when)));
    h.start();
    for (const person of first) {
      h.answer(person, "again", "unclear");
      h.send({ type: "answer", actor: "una", task: h.open()[0]!.id, answer: "sent", note: "", data: {} });
    }
    const people = h.asked();
    h.answer(people[0]!, "no", "too dear");
    for (const p of people.slice(1)) if (h.open().length > 0) h.answer(p, "yes");
    return h.state.result?.name;
  };
  it("can be read by formulas, with who and why", () => {
    expect(decided('count(Check.answers) >= 2 and Check.answers[1].answer = "no"')).toBe("as asked");
    expect(
      decided('Check.answers[answer = "no"][1].note = "too dear" and Check.answers[1].by.name != null'),
    ).toBe("as asked");
    expect(decided("Check.answers[1].by = Check.answers[2].by")).toBe("otherwise");
  });
  it("is that of the last time, when it was asked more than once", () => {
    const h = harness(definitionOf(route("true")));
    h.start();
    const [one] = h.asked();
    expect(decided('count(Check.answers[answer = "again"]) = 0', [one!])).toBe("as asked");
  });
});
