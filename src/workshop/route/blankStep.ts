import type { Step, StepKind } from "@/core/process";

export interface KindInfo {
  kind: StepKind;
  verb: string;
  says: string;
}

/** The kinds of step by their verbs. */
export const KINDS: readonly KindInfo[] = [
  { kind: "decide", verb: "Decide", says: "people choose an answer" },
  { kind: "complete", verb: "Complete", says: "a person fills in or confirms" },
  { kind: "choose", verb: "Choose", says: "the way by conditions" },
  { kind: "together", verb: "Together", says: "branches at the same time" },
  { kind: "write", verb: "Write", says: "add, change or remove records" },
  { kind: "work out", verb: "Work out", says: "set values of the form" },
  { kind: "tell", verb: "Tell", says: "a notice to somebody" },
  { kind: "jump", verb: "Jump", says: "go on with another step" },
  { kind: "finish", verb: "Finish", says: "end with a result" },
];
export const verbOf = (kind: StepKind): string => KINDS.find((k) => k.kind === kind)?.verb ?? kind;

/** A new step of a kind, ready to be written on. `id` must be free, and free with a suffix. */
export function blankStep(kind: StepKind, id: string): Step {
  const base = { id, name: verbOf(kind) };
  switch (kind) {
    case "decide":
      return {
        ...base,
        name: "Decision",
        kind,
        who: { rule: { by: "manager" }, how: "one" },
        limit: { otherwise: { amount: 2, unit: "working days" }, rungs: [] },
        answers: [
          { id: `${id}-yes`, label: "Approve", tone: "agree", steps: [] },
          {
            id: `${id}-no`,
            label: "Decline",
            tone: "refuse",
            note: "must",
            steps: [{ id: `${id}-end`, name: "Finish", kind: "finish", result: "declined", tone: "refuse" }],
          },
        ],
      };
    case "complete":
      return {
        ...base,
        name: "Task",
        kind,
        who: { rule: { by: "requester" }, how: "one", requesterToo: true },
        button: "Done",
      };
    case "choose":
      return {
        ...base,
        name: "Choice",
        kind,
        ways: [
          { id: `${id}-1`, name: "first way", when: "", steps: [] },
          { id: `${id}-2`, name: "otherwise", steps: [] },
        ],
      };
    case "together":
      return {
        ...base,
        name: "Side by side",
        kind,
        branches: [
          { id: `${id}-1`, name: "first", steps: [] },
          { id: `${id}-2`, name: "second", steps: [] },
        ],
      };
    case "write":
      return { ...base, name: "Write", kind, op: "change", register: "", values: [] };
    case "work out":
      return { ...base, kind, set: [] };
    case "tell":
      return {
        ...base,
        name: "Tell the requester",
        kind,
        who: { by: "requester" },
        subject: "{Request.number}",
        text: "",
      };
    case "jump":
      return { ...base, kind, to: "" };
    case "finish":
      return { ...base, kind, result: "done", tone: "agree" };
  }
}
