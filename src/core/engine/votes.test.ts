import type { Step, StepOf } from "../route";
import type { Task } from "./state";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";
import { neededFor, outcomeOf } from "./vote";

describe("how many must agree", () => {
  it.each([
    ["all", 3, undefined, 3],
    ["share", 3, 50, 2],
    ["share", 3, 67, 3],
    ["share", 5, 1, 1],
    ["share", 4, undefined, 2],
    ["one", 4, undefined, 1],
    ["first", 4, undefined, 1],
  ] as const)("%s of %p (%p%%) needs %p", (how, asked, share, want) =>
    expect(neededFor({ how, ...(share ? { share } : {}) }, asked)).toBe(want),
  );
});

describe("what a visit comes to", () => {
  const tasks = (...answers: string[]) =>
    answers.map((answer, i) => ({ id: `t${i}`, visit: "v", status: "answered", answer }) as Task);
  const YES = { id: "yes", tone: "agree" } as const;
  const NO = { id: "no", tone: "refuse" } as const;
  const LATER = { id: "later", tone: "plain" } as const;
  const come = (
    asked: number,
    how: "all" | "share",
    given: string[],
    order = [YES, NO, LATER] as const as readonly (typeof YES | typeof NO | typeof LATER)[],
  ) => outcomeOf({ id: "v", asked }, { how, share: 60 }, order, tasks(...given));
  it("is decided as soon as enough agree, or no longer can", () => {
    expect(come(5, "share", ["yes", "no", "yes"])).toBeNull();
    expect(come(5, "share", ["yes", "no", "yes", "yes"])).toBe("yes");
    expect(come(5, "share", ["no", "no", "later"])).toBe("no");
    expect(come(5, "share", ["no", "later", "yes", "later"])).toBe("later");
    expect(come(3, "all", [])).toBeNull();
  });
  it("hangs on what an answer says, not on where it stands", () => {
    for (const order of [
      [NO, YES, LATER],
      [LATER, NO, YES],
      [YES, NO, LATER],
    ]) {
      expect(come(3, "all", ["yes"], order)).toBeNull();
      expect(come(3, "all", ["yes", "yes", "yes"], order)).toBe("yes");
      expect(come(3, "all", ["no"], order)).toBe("no");
    }
  });
  it("a tie among the others goes to the one that stands later on the sheet", () =>
    expect(come(3, "all", ["no", "later"])).toBe("later"));
  it("several ways to agree count together; the one given most often is taken", () => {
    const but = { id: "but", tone: "agree" } as const;
    const of = (...given: string[]) =>
      outcomeOf({ id: "v", asked: given.length }, { how: "all" }, [YES, but, NO], tasks(...given));
    expect(of("yes", "but", "yes")).toBe("yes");
    expect(of("yes", "but")).toBe("but");
    expect(of("yes", "no")).toBe("no");
  });
  it("where no answer agrees the first is the one that must be given", () =>
    expect(outcomeOf({ id: "v", asked: 2 }, { how: "all" }, [LATER, NO], tasks("later", "later"))).toBe(
      "later",
    ));
});

const NO_FIRST = [ans("decline", "refuse", [fin("no", "declined", "refuse")]), ans("approve", "agree")];
const three = (how: string, more: object = {}, answers: StepOf<"decide">["answers"] = NO_FIRST): Step => {
  const step = decideBy("check", { by: "group", group: "registry" }, answers, more);
  return { ...step, who: { rule: { by: "group", group: "registry" }, how, share: 60 } } as Step;
};
const begun = (step: Step) => {
  const h = harness(definitionOf([step, fin("end", "approved")]));
  h.start();
  const task = (who: string) => h.open().find((t) => t.candidates.some((c) => c.person === who))!.id;
  return {
    h,
    hand: (from: string, to: string) =>
      h.send({ type: "hand over", actor: from, task: task(from), to, note: "" }),
  };
};

describe("one person, one vote", () => {
  it("who is handed the tasks of others answers once, and for one", () => {
    const { h, hand } = begun(three("all"));
    expect(hand("carmel", "declan").ok).toBe(true);
    expect(h.asked()).toEqual(["declan", "fergus"]);
    h.answer("declan", "approve");
    expect(h.state.status).toBe("under way");
    expect(h.asked()).toEqual(["fergus"]);
    h.answer("fergus", "approve");
    expect(h.state.result?.name).toBe("approved");
    expect(h.events.filter((e) => e.type === "task closed" && e.reason === "merged")).toHaveLength(1);
  });
  it("a task handed to somebody who has answered is settled with what is there", () => {
    const { h, hand } = begun(three("all"));
    h.answer("declan", "approve");
    h.answer("fergus", "approve");
    expect(hand("carmel", "fergus").ok).toBe(true);
    expect(h.state.result?.name).toBe("approved");
  });
  it("a task handed to somebody new stays one", () => {
    const { h, hand } = begun(three("all"));
    hand("carmel", "eithne");
    expect(h.asked()).toEqual(["declan", "eithne", "fergus"]);
  });
  const ladder = (action: object) => ({
    limit: { otherwise: { amount: 1, unit: "working days" }, rungs: [{ id: "r", when: "at", action }] },
  });
  const director = { by: "duty", duty: "Director" };
  it("a rung that hands three tasks to one person leaves one", () => {
    const { h } = begun(three("all", ladder({ do: "hand over", to: director })));
    h.at(Date.UTC(2026, 2, 9));
    h.send({ type: "time reached", timer: Object.keys(h.state.timers)[0]! });
    expect(h.asked()).toEqual(["eithne"]);
    h.answer("eithne", "decline");
    expect(h.state.result?.name).toBe("declined");
  });
  it("a rung that adds somebody asks nobody a second time who has answered, and counts who is asked by now", () => {
    const { h } = begun(three("share", ladder({ do: "add", who: director })));
    const timer = Object.keys(h.state.timers)[0]!;
    h.answer("carmel", "approve");
    h.at(Date.UTC(2026, 2, 9));
    h.send({ type: "time reached", timer });
    expect(h.asked()).toEqual(["declan", "eithne", "fergus"]);
    // 60% of four are three.
    h.answer("eithne", "approve");
    expect(h.state.status).toBe("under way");
    h.answer("fergus", "approve");
    expect(h.state.result?.name).toBe("approved");

    const again = begun(three("all", ladder({ do: "add", who: { by: "person", person: "carmel" } }))).h;
    const later = Object.keys(again.state.timers)[0]!;
    again.answer("carmel", "approve");
    again.at(Date.UTC(2026, 2, 9));
    again.send({ type: "time reached", timer: later });
    expect(again.asked()).toEqual(["declan", "fergus"]);
  });
});

it("refusing and sending back keep what was filled in, but for what its field cannot hold", () => {
  const back = ans("back", "plain", [], { returns: true });
  const step = decideBy("check", { by: "person", person: "declan" }, [...NO_FIRST, back]);
  for (const answer of ["decline", "back"]) {
    const h = harness(
      definitionOf([step, fin("end", "approved")], { access: { check: { total: "edit", reason: "edit" } } }),
    );
    h.start();
    h.answer("declan", answer, "see there", { total: "12.345", reason: "Which room?" });
    expect(h.state.data).toMatchObject({ total: "100", reason: "Which room?" });
  }
});
