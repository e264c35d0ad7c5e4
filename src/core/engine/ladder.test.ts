import { addLength } from "../calendar";
import { personParty } from "../form";
import { KINDS } from "@/kinds";
import type { Limit, ProcessDefinition, Step } from "../route";
import {
  compileRelease,
  decide,
  ladderDates,
  NEW_REQUEST,
  type Command,
  type RequestEvent,
  type RequestState,
} from ".";
import { OFFICE_HOURS, officeFacts } from "./testOffice";

const T0 = Date.UTC(2026, 2, 3, 10, 0); // Tuesday, 10:00 in Dublin
const H = 3_600_000;
const NEVER = { ...OFFICE_HOURS, week: {} };
const at = (ms: number) => (ms - T0) / H;

describe("the days a ladder falls on", () => {
  const two = { amount: 2, unit: "working days" as const };
  it("before, at and after the limit, in working time, earliest first", () => {
    const d = ladderDates(OFFICE_HOURS, T0, addLength(OFFICE_HOURS, T0, two), [
      { id: "c", when: "after", length: { amount: 1, unit: "working days" }, action: { do: "remind" } },
      { id: "a", when: "before", length: { amount: 4, unit: "working hours" }, action: { do: "remind" } },
      { id: "b", when: "at", action: { do: "remind" } },
    ]);
    expect(at(d.due!)).toBe(48);
    expect(d.rungs.map((r) => [r.rung.id, at(r.at)])).toEqual([
      ["a", 28],
      ["b", 48],
      ["c", 72],
    ]);
  });
  it("repeats every so long, so many times, over the weekend", () => {
    const d = ladderDates(OFFICE_HOURS, T0, addLength(OFFICE_HOURS, T0, two), [
      { id: "r", when: "at", every: { amount: 1, unit: "working days" }, times: 3, action: { do: "remind" } },
    ]);
    expect(d.rungs.map((r) => at(r.at))).toEqual([48, 72, 144]);
    expect(d.rungs.map((r) => r.turn)).toEqual([1, 2, 3]);
  });
  it("never repeats without end", () => {
    const d = ladderDates(OFFICE_HOURS, T0, addLength(OFFICE_HOURS, T0, two), [
      { id: "r", when: "at", every: { amount: 1, unit: "minutes" }, action: { do: "remind" } },
    ]);
    expect(d.rungs).toHaveLength(50);
  });
  it("a calendar that is never open has no limit", () =>
    expect(ladderDates(NEVER, T0, addLength(NEVER, T0, two), [])).toEqual({ due: null, rungs: [] }));
  it("what is to happen before the limit, just when it is asked, is left out: they have only begun", () => {
    const d = ladderDates(OFFICE_HOURS, T0, addLength(OFFICE_HOURS, T0, two), [
      { id: "a", when: "before", length: two, action: { do: "remind" } },
    ]);
    expect(d.rungs).toEqual([]);
  });
  it("a limit that is over already: what was to happen before it is left out, the rest happens at once", () => {
    const d = ladderDates(OFFICE_HOURS, T0, T0, [
      { id: "a", when: "before", length: { amount: 4, unit: "working hours" }, action: { do: "remind" } },
      { id: "b", when: "at", action: { do: "remind" } },
    ]);
    expect(d.rungs.map((r) => [r.rung.id, at(r.at)])).toEqual([["b", 0]]);
  });
});

describe("rungs", () => {
  const limit: Limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [
      {
        id: "tell",
        when: "at",
        every: { amount: 1, unit: "working days" },
        times: 2,
        action: { do: "tell", who: { by: "duty", duty: "Director" }, text: "{Request.number} waits" },
      },
      {
        id: "add",
        when: "after",
        length: { amount: 1, unit: "hours" },
        action: { do: "add", who: { by: "duty", duty: "Director" } },
      },
      {
        id: "none",
        when: "after",
        length: { amount: 2, unit: "hours" },
        action: { do: "hand over", to: { by: "duty", duty: "Nobody" } },
      },
      {
        id: "own",
        when: "after",
        length: { amount: 3, unit: "hours" },
        action: { do: "hand over", to: { by: "requester" } },
      },
    ],
  };
  const step: Step = {
    id: "d",
    name: "Check",
    kind: "decide",
    who: { rule: { by: "group", group: "registry" }, how: "all" },
    limit,
    answers: [
      { id: "yes", label: "Yes", tone: "agree", steps: [] },
      { id: "no", label: "No", tone: "refuse", steps: [] },
    ],
  };
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "t",
    name: "T",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "TT", digits: 4 },
    title: "",
    starts: [],
    samples: [],
    access: {},
    fields: [],
    route: [step, { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  };
  const release = compileRelease(definition, {}, KINDS);
  function started() {
    let state: RequestState = NEW_REQUEST;
    const events: RequestEvent[] = [];
    const send = (c: Command, now = T0) => {
      const d = decide(release, state, c, officeFacts(now));
      if (d.ok) [state] = [d.state, events.push(...d.events)];
      return d;
    };
    send({ type: "start", actor: "una", requester: personParty("una"), number: "TT-1", data: {} });
    const fire = (rung: string) => {
      const t = Object.values(state.timers)
        .filter((x) => x.rung === rung)
        .sort((a, b) => a.at - b.at)[0]!;
      return send({ type: "time reached", timer: t.id }, t.at);
    };
    return {
      send,
      fire,
      events,
      get state() {
        return state;
      },
      open: () =>
        Object.values(state.tasks)
          .filter((t) => t.status === "open")
          .map((t) => t.holder),
    };
  }

  it("tell says it to others each time, and changes no task", () => {
    const h = started();
    for (let i = 0; i < 2; i++) {
      const d = h.fire("tell");
      expect(d.ok && d.effects.filter((e) => e.kind === "tell")).toEqual([
        expect.objectContaining({ people: ["eithne"], text: "TT-1 waits" }),
      ]);
    }
    expect(h.open()).toEqual(["carmel", "declan", "fergus"]);
    expect(Object.values(h.state.timers).some((t) => t.rung === "tell")).toBe(false);
  });
  it("add asks one more, whose answer is then needed too, and only once", () => {
    const h = started();
    h.fire("add");
    expect(h.open()).toEqual(["carmel", "declan", "fergus", "eithne"]);
    for (const who of ["carmel", "declan", "fergus"])
      h.send({
        type: "answer",
        actor: who,
        task: Object.values(h.state.tasks).find((t) => t.holder === who)!.id,
        answer: "yes",
        note: "",
        data: {},
      });
    expect(h.state.status).toBe("under way");
    h.send({
      type: "answer",
      actor: "eithne",
      task: Object.values(h.state.tasks).find((t) => t.holder === "eithne")!.id,
      answer: "yes",
      note: "",
      data: {},
    });
    expect(h.state.status).toBe("finished");
  });
  it("a rung that finds nobody, or only the requester, leaves the task where it is and says so", () => {
    const h = started();
    h.fire("none");
    h.fire("own");
    expect(h.open()).toEqual(["carmel", "declan", "fergus"]);
    expect(
      h.events.filter((e) => e.type === "rung fired").map((e) => e.type === "rung fired" && e.found),
    ).toEqual([false, false]);
  });
});
