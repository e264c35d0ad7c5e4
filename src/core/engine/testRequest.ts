import { personParty } from "../form";
import { KINDS } from "@/kinds";
import type { FactsData, FormData, Registers } from "../form";
import type { ProcessDefinition, Step, StepOf } from "../route";
import {
  allTasks,
  compileRelease,
  decideAndName,
  NEW_REQUEST,
  NO_PROCEDURES,
  Turn,
  type Command,
  type CompiledRelease,
  type Procedures,
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
  procedures: Procedures = NO_PROCEDURES,
) {
  const release = compileRelease(definition, registers, KINDS);
  let state: RequestState = NEW_REQUEST;
  const events: RequestEvent[] = [];
  /** People who are not there any more, from when they are put in. */
  const left = new Set<string>();
  let at = T0;
  let called: string | null = null;
  const send = (command: Command) => {
    const facts = { ...officeFacts(at, known(), away, left), procedures };
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
  const open = () => allTasks(state).filter((t) => t.status === "open" || t.status === "taken");
  return {
    send,
    start: (data: FormData = { total: "100" }, actor = "una") =>
      send({ type: "start", actor, requester: personParty(actor), number: "TEST-0001", data }),
    answer: (actor: string, answer: string, note = "", data = {}) =>
      send({
        type: "answer",
        actor,
        task: (open().find((t) => t.candidates.some((c) => c.person === actor)) ?? allTasks(state)[0]!).id,
        answer,
        note,
        data,
      }),
    at: (ms: number) => (at = ms),
    release,
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

/** Procedures by key, each with its definitions as they were put live one after another; the last is live. */
export function proceduresOf(
  all: Record<string, ProcessDefinition[]>,
  registers: Registers = {},
): Procedures {
  const known = new Map<string, CompiledRelease>();
  const compiled = (id: string, d: ProcessDefinition) => {
    const r = known.get(id) ?? compileRelease(d, registers, KINDS);
    known.set(id, r);
    return { id, release: r };
  };
  return {
    find: (key, version) => {
      const list = all[key] ?? [];
      const n = version === null ? list.length : Number(version.split(".")[0]);
      return list[n - 1] ? compiled(`${key}@${n}`, list[n - 1]!) : null;
    },
    byId: (id) => {
      const [key = "", n] = id.split("@");
      const d = all[key]?.[Number(n) - 1];
      return d ? compiled(id, d).release : null;
    },
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
