import { KINDS } from "@/kinds";
import type { FactsData, Registers } from "../form";
import type { ProcessDefinition, Step, StepOf } from "../route";
import {
  compileRelease,
  decideAndName,
  NEW_REQUEST,
  Turn,
  type Command,
  type RequestEvent,
  type RequestState,
} from ".";
import { officeFacts } from "./testOffice";

type Answer = StepOf<"decide">["answers"][number];

export const T0 = Date.UTC(2026, 2, 3, 10, 0); // Tuesday 3 March 2026, 10:00 in Dublin

export function definitionOf(route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition {
  return {
    format: "cobble-step/process@2",
    key: "test",
    name: "Test",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "TEST", digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    route,
    fields: [
      { id: "total", name: "Total", kind: "money", needed: "true" },
      { id: "reason", name: "Reason", kind: "text" },
      { id: "secret", name: "Secret", kind: "text" },
    ],
    ...more,
  };
}

/** Drives one request through commands, keeping every event. */
export function harness(
  definition: ProcessDefinition,
  away: Record<string, string> = {},
  registers: Registers = {},
  known: () => Partial<FactsData> = () => ({}),
) {
  const release = compileRelease(definition, registers, KINDS);
  let state: RequestState = NEW_REQUEST;
  const events: RequestEvent[] = [];
  /** People who are not there any more, from when they are put in. */
  const left = new Set<string>();
  let at = T0;
  let called: string | null = null;
  const send = (command: Command) => {
    const facts = officeFacts(at, known(), away, left);
    const { decision: d, title } = decideAndName(release, state, command, facts);
    if (d.ok) {
      // The name worked out on the way is the one somebody who comes later would work out.
      called = new Turn(release, d.state, facts, null).title();
      if (title !== null && title !== called) throw new Error(`called "${title}", not "${called}"`);
      events.push(...d.events);
      state = d.state;
    }
    return d;
  };
  const open = () => Object.values(state.tasks).filter((t) => t.status === "open" || t.status === "taken");
  return {
    send,
    start: (data: Record<string, string> = { total: "100" }, actor = "una") =>
      send({ type: "start", actor, requester: actor, number: "TEST-0001", data }),
    answer: (actor: string, answer: string, note = "", data = {}) =>
      send({
        type: "answer",
        actor,
        task: (
          open().find((t) => t.candidates.some((c) => c.person === actor)) ?? Object.values(state.tasks)[0]!
        ).id,
        answer,
        note,
        data,
      }),
    at: (ms: number) => (at = ms),
    get state() {
      return state;
    },
    /** What it is called after the last command. */
    title: () => called ?? "",
    events,
    left,
    open,
    asked: () =>
      open()
        .map((t) => t.candidates.map((c) => c.person).join("|"))
        .sort(),
  };
}

export const ans = (
  id: string,
  tone: Answer["tone"],
  steps: Step[] = [],
  more: Partial<Answer> = {},
): Answer => ({
  id,
  label: id,
  tone,
  steps,
  ...more,
});
export const fin = (id: string, result: string, tone: Answer["tone"] = "agree"): Step => ({
  id,
  name: "Finish",
  kind: "finish",
  result,
  tone,
});
export const decideBy = (
  id: string,
  rule: Extract<Step, { kind: "decide" }>["who"]["rule"],
  answers: StepOf<"decide">["answers"],
  more: object = {},
): Step => ({ id, name: id, kind: "decide", who: { rule, how: "one" }, answers, ...more }) as Step;
export const YES_NO = (n: string) => [
  ans("approve", "agree"),
  ans("decline", "refuse", [fin(`no-${n}`, "declined", "refuse")]),
];
