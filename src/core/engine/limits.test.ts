import { KINDS } from "@/kinds";
import type { Field, FormData } from "../form";
import { personParty } from "../form";
import type { Ladder, Limit, ProcessDefinition, Step } from "../route";
import { compileRelease, decide, NEW_REQUEST, type Command, type RequestEvent, type RequestState } from ".";
import { officeFacts } from "./testOffice";
import { definitionOf, fin, T0 } from "./testRequest";

// It is Tuesday, 10:00 in Dublin; work goes on from 9 to 17 on weekdays.
const H = 3_600_000;
const DAY = 24 * H;

const FIELDS: Field[] = [
  { id: "by", name: "Needed by", kind: "date" },
  { id: "at", name: "Opens", kind: "text" },
  { id: "n", name: "Days", kind: "number" },
  { id: "t", name: "Said", kind: "text" },
];

function process(limit: Limit, ladders?: Ladder[], answers = ANSWERS): ProcessDefinition {
  const step: Step = {
    id: "d",
    name: "Check",
    kind: "decide",
    who: { rule: { by: "group", group: "registry" }, how: "all" },
    limit,
    answers,
  };
  return definitionOf([step, fin("end", "done")], { fields: FIELDS, ...(ladders ? { ladders } : {}) });
}
const ANSWERS: Extract<Step, { kind: "decide" }>["answers"] = [
  { id: "yes", label: "Yes", tone: "agree", steps: [] },
  { id: "no", label: "No", tone: "refuse", steps: [] },
];

function started(d: ProcessDefinition, data: FormData = {}) {
  const release = compileRelease(d, {}, KINDS);
  let state: RequestState = NEW_REQUEST;
  const events: RequestEvent[] = [];
  const send = (c: Command, now = T0) => {
    const decided = decide(release, state, c, officeFacts(now));
    if (decided.ok) [state] = [decided.state, events.push(...decided.events)];
    return decided;
  };
  send({ type: "start", actor: "una", requester: personParty("una"), number: "TT-1", data });
  return {
    send,
    events,
    fire: (rung: string) => {
      const t = Object.values(state.timers).find((x) => x.rung === rung)!;
      return send({ type: "time reached", timer: t.id }, Math.max(t.at, T0));
    },
    get state() {
      return state;
    },
  };
}
const USUAL = { amount: 2, unit: "working days" as const };
/** Hours from T0 to the limit; or why there is none. */
function due(limit: Partial<Limit>, data: FormData = {}) {
  const { state } = started(process({ otherwise: USUAL, rungs: [], ...limit }), data);
  const [visit] = Object.values(state.visits);
  const [stuck] = state.stuck;
  if (stuck) return stuck.reason;
  return typeof visit?.due === "number" ? (visit.due - T0) / H : null;
}
const by = (day: string, most?: Limit["otherwise"]): Partial<Limit> => ({
  rules: [{ when: "true", length: { by: "day", formula: day, ...(most ? { most } : {}) } }],
});

describe("a limit by a formula", () => {
  it("until a day: the end of its work", () => {
    expect(due(by("Needed by"), { by: "2026-03-05" })).toBe(2 * 24 + 7);
    expect(due(by('Needed by - duration("P1D")'), { by: "2026-03-05" })).toBe(24 + 7);
  });
  it("on a day on which nobody works: the end of the last before it", () =>
    expect(due(by("Needed by"), { by: "2026-03-08" })).toBe(3 * 24 + 7));
  it("no longer than the most", () => {
    expect(due(by("Needed by", USUAL), { by: "2026-03-27" })).toBe(48);
    expect(due(by("Needed by", USUAL), { by: "2026-03-04" })).toBe(31);
  });
  it("what is empty says nothing: the next rule counts, then the ordinary length, and not the most", () => {
    expect(due(by("Needed by", { amount: 1, unit: "hours" }))).toBe(48);
    const next = { when: "true", length: { amount: 3, unit: "hours" as const } };
    expect(due({ rules: [{ when: "true", length: { by: "day", formula: "Needed by" } }, next] })).toBe(3);
  });
  it("a day in the past is over at once, and what is to happen at the limit does", () => {
    const d = process({
      otherwise: USUAL,
      ...by("Needed by"),
      rungs: [
        { id: "b", when: "before", length: { amount: 1, unit: "hours" }, action: { do: "remind" } },
        { id: "a", when: "at", action: { do: "remind" } },
      ],
    });
    const h = started(d, { by: "2020-01-01" });
    expect(Object.values(h.state.visits)[0]!.due).toBe(T0);
    expect(Object.values(h.state.timers).map((t) => [t.rung, t.at])).toEqual([["a", T0]]);
  });
  it("until a date and time", () =>
    expect(
      due(
        { rules: [{ when: "true", length: { by: "moment" as const, formula: "date and time(Opens)" } }] },
        { at: "2026-03-03T20:30:00" },
      ),
    ).toBe(10.5));
  it.each([
    ["1", 24],
    ["0.5", 4],
    ["0", 0],
    ["-3", 0],
  ])("so many working days by a formula: %s", (n, hours) =>
    expect(
      due(
        {
          rules: [{ when: "true", length: { by: "count" as const, formula: "Days", unit: "working days" } }],
        },
        { n },
      ),
    ).toBe(hours),
  );
  it.each([
    [{ by: "count" as const, formula: "Days", unit: "working days" as const }, { n: "100000" }],
    [
      { by: "count" as const, formula: "Days * 1000000000000000", unit: "working hours" as const },
      { n: "99999999999" },
    ],
    [{ by: "day" as const, formula: "Needed by" }, { by: "2200-01-01" }],
    [{ by: "day" as const, formula: 'Needed by + duration("P270000Y")' }, { by: "2026-01-01" }],
    // The last day there is: none comes behind it, at which it would end.
    [{ by: "day" as const, formula: "date(275760, 9, 13)" }, {}],
    [{ by: "moment" as const, formula: 'date and time("275760-09-12T23:00:00")' }, {}],
  ])("further away than ten years stops with the reason, at once: %j", (length, data) => {
    const began = performance.now();
    expect(due({ rules: [{ when: "true", length }] }, data)).toMatchObject({
      code: "unclear",
      data: { step: "Check" },
    });
    expect(performance.now() - began).toBeLessThan(2_000);
  });
  it.each([
    [{ by: "count" as const, formula: "Said", unit: "working days" as const }],
    [{ by: "day" as const, formula: "date(Said)" }],
    [{ by: "moment" as const, formula: "1 / 0" }],
  ])("what cannot be worked out, or is no such thing, stops the step: %j", (length) =>
    expect(due({ rules: [{ when: "true", length }] }, { t: "soon" })).toMatchObject({ code: "unclear" }),
  );
  it("what was gone by stands beside the limit on the trail", () => {
    const h = started(process({ otherwise: USUAL, ...by("Needed by"), rungs: [] }), { by: "2026-03-05" });
    const opened = h.events.find((e) => e.type === "visit opened");
    expect(opened?.type === "visit opened" && opened.why?.map((c) => c.text)).toEqual(["Needed by"]);
  });
});

it("a length of time by a formula goes by the clock", () => {
  const rules: Limit["rules"] = [{ when: "true", length: { by: "lasting", formula: 'duration("PT36H")' } }];
  expect(due({ rules })).toBe(36);
});

describe("from when a limit counts", () => {
  const h3 = { amount: 3, unit: "hours" as const };
  it("the start of the request, however late the step opens", () => {
    const d = process({ from: { by: "start" }, otherwise: { amount: 2, unit: "days" }, rungs: [] });
    const wait: Step = { id: "w", name: "Pause", kind: "wait", for: [{ id: "1", length: h3 }], ways: [] };
    const h = started({ ...d, route: [wait, ...d.route] });
    const [sleep] = Object.values(h.state.timers);
    h.send({ type: "time reached", timer: sleep!.id }, sleep!.at);
    expect(Object.values(h.state.visits)[0]!.due).toBe(T0 + 2 * DAY);
  });
  it("a day, its beginning; a moment; and from when it is asked where that is empty", () => {
    expect(due({ from: { by: "day", formula: "Needed by" }, otherwise: h3 }, { by: "2026-03-04" })).toBe(17);
    expect(
      due(
        { from: { by: "moment", formula: "date and time(Opens)" }, otherwise: h3 },
        { at: "2026-03-03T12:00:00" },
      ),
    ).toBe(5);
    expect(due({ from: { by: "day", formula: "Needed by" }, otherwise: h3 })).toBe(3);
  });
  it("one that would be over before it is asked is over then", () =>
    expect(due({ from: { by: "day", formula: "Needed by" }, otherwise: h3 }, { by: "2025-03-04" })).toBe(0));
  it("further away than ten years stops the step", () =>
    expect(due({ from: { by: "day", formula: "date(2200, 1, 1)" }, otherwise: h3 })).toMatchObject({
      code: "unclear",
    }));
  it("what cannot be worked out stops the step", () =>
    expect(due({ from: { by: "day", formula: "date(Said)" }, otherwise: h3 }, { t: "soon" })).toMatchObject({
      code: "unclear",
    }));
});

describe("what must hold for a rung", () => {
  const told = (condition: string, data: FormData) => {
    const h = started(
      process({
        otherwise: USUAL,
        rungs: [
          {
            id: "r",
            when: "at",
            if: condition,
            action: { do: "add", who: { by: "duty", duty: "Director" } },
          },
        ],
      }),
      data,
    );
    h.fire("r");
    const fired = h.events.find((e) => e.type === "rung fired");
    return { fired, asked: Object.values(h.state.tasks).length };
  };
  it("holds by then: it happens", () => {
    const { fired, asked } = told("Days > 1", { n: "2" });
    expect([fired, asked]).toEqual([expect.objectContaining({ found: true }), 4]);
    expect(fired).not.toHaveProperty("unmet");
  });
  it.each([{ n: "1" }, {}])(
    "does not hold, or is over something empty: nothing, and the trail says so (%j)",
    (data) => {
      const { fired, asked } = told("Days > 1", data as FormData);
      expect([fired, asked]).toEqual([expect.objectContaining({ found: false, unmet: true }), 3]);
    },
  );
  it("cannot be worked out: nothing is done, and the trail says why", () => {
    const { fired, asked } = told('date(Said) > date("2026-01-01")', { t: "soon" });
    expect(asked).toBe(3);
    expect(fired).toMatchObject({ found: false, unclear: { code: "unclear" } });
    expect(fired).not.toHaveProperty("unmet");
  });
});

describe("a ladder kept by name", () => {
  const ladder: Ladder = {
    id: "l",
    name: "To the Director",
    rungs: [
      {
        id: "up",
        when: "after",
        length: { amount: 1, unit: "hours" },
        if: "Days > 1",
        action: {
          do: "tell",
          who: { by: "duty", duty: "Director" },
          subject: "{Said} is late",
          text: "{Days} days",
        },
      },
    ],
  };
  const limit: Limit = { otherwise: USUAL, rungs: [], ladder: "l" };
  it("is gone by as if its rungs were the limit's own, its formulas read where it is used", () => {
    const h = started(process(limit, [ladder]), { n: "2", t: "Kiln" });
    const d = h.fire("up");
    expect(d.ok && d.effects).toEqual([
      expect.objectContaining({
        kind: "tell",
        step: "d",
        people: ["eithne"],
        subject: "Kiln is late",
        text: "2 days",
      }),
    ]);
  });
  it("by steps in rounds, it reads what stands around them", () => {
    const d = process(limit, [ladder]);
    const route: Step[] = [
      {
        id: "each",
        name: "Each",
        kind: "for each",
        over: { times: "2" },
        item: "Part",
        bodies: [{ id: "body", steps: [d.route[0]!] }],
      },
      d.route[1]!,
    ];
    const inRounds = { ...ladder, rungs: [{ ...ladder.rungs[0]!, if: "Part number = 2" }] };
    const h = started({ ...d, route, ladders: [inRounds] }, { n: "2", t: "Kiln" });
    expect(Object.values(h.state.visits)).toHaveLength(2);
    const timers = Object.values(h.state.timers);
    for (const t of timers) h.send({ type: "time reached", timer: t.id }, t.at);
    const fired = h.events.filter((e) => e.type === "rung fired");
    expect(fired.map((e) => e.type === "rung fired" && e.found)).toEqual([false, true]);
  });
  it("that is not there makes no rungs, and the limit holds all the same", () => {
    const h = started(process(limit));
    expect(Object.values(h.state.timers)).toEqual([]);
    expect(Object.values(h.state.visits)[0]!.due).toBe(T0 + 48 * H);
  });
});

describe("an answer that only the ladder gives", () => {
  const answers = [
    ...ANSWERS,
    {
      id: "late",
      label: "Nobody answered",
      tone: "plain" as const,
      byLadder: true as const,
      steps: [{ id: "f", name: "Over", kind: "finish" as const, result: "late", tone: "refuse" as const }],
    },
  ];
  const limit: Limit = {
    otherwise: USUAL,
    rungs: [{ id: "r", when: "at", action: { do: "answer", answer: "late", note: "No answer." } }],
  };
  it("is refused of people, and goes its own way by the rung", () => {
    const h = started(process(limit, undefined, answers));
    const [task] = Object.values(h.state.tasks);
    const give = { type: "answer", actor: task!.holder!, task: task!.id, note: "", data: {} } as const;
    expect(h.send({ ...give, answer: "late" })).toMatchObject({
      ok: false,
      refusal: { code: "unknown-answer", data: { answers: ["yes", "no"] } },
    });
    h.fire("r");
    expect([h.state.status, h.state.result?.name]).toEqual(["finished", "late"]);
  });
  it("decides nothing of what people answer", () => {
    // Where no answer agrees by its tone the first counts, and that is one that people can give.
    const plain = [...answers].reverse().map((a) => ({ ...a, tone: "plain" as const }));
    const h = started(process(limit, undefined, plain));
    for (const t of Object.values(h.state.tasks))
      h.send({ type: "answer", actor: t.holder!, task: t.id, answer: "no", note: "", data: {} });
    expect(h.state.result?.name).toBe("done");
    expect(h.events.find((e) => e.type === "step decided")).toMatchObject({ answer: "no" });
  });
});

it("another limit says until when it went before", () => {
  const h = started(process({ otherwise: USUAL, rungs: [] }));
  const [task] = Object.values(h.state.tasks);
  h.send({ type: "change limit", actor: "una", task: task!.id, due: T0 + 5 * DAY, note: "Easter" });
  expect(h.events.at(-1)).toMatchObject({ type: "limit changed", due: T0 + 5 * DAY, was: T0 + 48 * H });
});
