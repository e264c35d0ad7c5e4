import { personParty } from "../form";
import { KINDS } from "@/kinds";
import type { EventBody, Task } from "../engine";
import { trailLine, trailLines } from ".";

const names = {
  person: (id: string) => id.toUpperCase(),
  step: (id: string) => `Step ${id}`,
  time: () => "Thu 12 Mar, 17:00",
  task: (id: string) => (id === "t1" ? task() : null),
  mends: true,
  namesRecords: () => true,
  inCall: () => null,
};
const task = (more: Partial<Task> = {}): Task =>
  ({
    id: "t1",
    visit: "v1",
    step: "check",
    token: "k1",
    purpose: "decide",
    candidates: [{ person: "una" }],
    holder: "una",
    status: "open",
    due: null,
    openedAt: 0,
    ...more,
  }) as Task;
const line = (e: EventBody, by: string | null = "una") =>
  trailLine({ ...e, seq: 3, at: 1000, by } as Parameters<typeof trailLine>[0], names, KINDS);

describe("the trail in words", () => {
  it.each<[string, EventBody, string]>([
    [
      "start",
      { type: "request started", requester: personParty("una"), number: "KEY-1", data: {} },
      "made the request",
    ],
    [
      "a mail from outside",
      {
        type: "request started",
        requester: { kind: "outside", name: "Harbour School", email: "o@harbour.example", through: null },
        number: "KEY-1",
        data: {},
        handed: true,
      },
      "Harbour School made the request",
    ],
    ["one value", { type: "data changed", data: { a: "1" } }, "changed a value in the form"],
    ["several values", { type: "data changed", data: { a: "1", b: "2" } }, "changed 2 values in the form"],
    [
      "a signature",
      { type: "signed", field: "s", value: "f", fields: ["a"], hash: "0123456789abcdef" },
      "entered a signature, fingerprint 0123456789ab",
    ],
    [
      "one of which something was blanked",
      { type: "signed", field: "s", value: "f", fields: ["a"], hash: "" },
      "entered a signature",
    ],
    [
      "a way",
      { type: "step did", step: "size", did: { kind: "choose", way: "w", name: "large", why: [] } },
      "Step size: large",
    ],
    [
      "branches",
      { type: "step did", step: "both", did: { kind: "together", opened: ["a", "b"], left: [] } },
      "Step both: 2 side by side",
    ],
    [
      "a branch left out",
      {
        type: "step did",
        step: "both",
        did: { kind: "together", opened: ["a"], left: [{ branch: "b", name: "Security", why: [] }] },
      },
      "Step both: not needed: Security",
    ],
    ["asked", { type: "task opened", task: task() }, "Step check: UNA is asked"],
    [
      "asked until",
      { type: "task opened", task: task({ due: 5 }) },
      "Step check: UNA is asked, until Thu 12 Mar, 17:00",
    ],
    [
      "several asked",
      {
        type: "task opened",
        task: task({ candidates: [{ person: "una" }, { person: "fergus", for: "carmel" }] }),
      },
      "Step check: UNA, FERGUS (covering for CARMEL) are asked",
    ],
    [
      "asked for changes",
      { type: "task opened", task: task({ purpose: "changes" }) },
      "UNA is asked for changes",
    ],
    [
      "added",
      { type: "decider added", task: task(), rung: "r" },
      "Step check: UNA is asked too, as the ladder says",
    ],
    ["taken", { type: "task taken", task: "t1" }, "took the task"],
    ["put back", { type: "task put back", task: "t1" }, "put the task back"],
    [
      "handed over",
      { type: "task handed over", task: "t1", to: [{ person: "fergus" }], note: "" },
      "handed over to FERGUS",
    ],
    [
      "handed over by a rung",
      { type: "task handed over", task: "t1", to: [{ person: "fergus" }], note: "", rung: "r" },
      "Handed over to FERGUS, as the ladder says",
    ],
    [
      "asked instead of who left",
      { type: "task handed over", task: "t1", to: [{ person: "fergus" }], note: "", gone: "left" },
      "Asked instead: FERGUS; whoever was asked has left",
    ],
    [
      "asked instead of who is away",
      {
        type: "task handed over",
        task: "t1",
        to: [{ person: "fergus", for: "carmel" }],
        note: "",
        gone: "away",
      },
      "Asked instead: FERGUS (covering for CARMEL); whoever was asked is away",
    ],
    [
      "fewer are asked",
      { type: "task closed", task: "t1", reason: "left" },
      "Somebody who was asked is not there any more; one fewer is asked",
    ],
    [
      "nobody is left",
      { type: "visit given up", visit: "v1", step: "check" },
      "Step check: nobody who was asked is there any more",
    ],
    [
      "answer",
      { type: "answer given", task: "t1", answer: "yes", label: "Approve", note: "" },
      "answered: Approve",
    ],
    [
      "answer while covering",
      { type: "answer given", task: "t1", answer: "yes", label: "Approve", note: "", for: "carmel" },
      "answered: Approve (for CARMEL)",
    ],
    [
      "answer on their behalf",
      { type: "answer given", task: "t1", answer: "yes", label: "Approve", note: "", automatic: true },
      "Answered on their behalf: Approve",
    ],
    [
      "decided by several",
      {
        type: "step decided",
        visit: "v1",
        step: "check",
        answer: "yes",
        label: "Approve",
        note: "",
        given: 3,
      },
      "Step check: Approve, by 3 answers",
    ],
    [
      "sent back",
      { type: "returned for changes", visit: "v1", step: "check", note: "Which room?" },
      "Step check: sent back for changes",
    ],
    [
      "changes sent",
      { type: "changes sent", visit: "v1", step: "check" },
      "Step check: starts again with the changes",
    ],
    ["a value set", { type: "values set", step: "sum", data: { a: "1" } }, "Step sum: a value was set"],
    [
      "values set",
      { type: "values set", step: "sum", data: { a: "1", b: "2" } },
      "Step sum: values were set",
    ],
    [
      "written",
      {
        type: "effect done",
        effect: "e",
        step: "w",
        kind: "write",
        result: {
          records: [
            { register: "r", id: "1", title: "Cold room", did: "changed" },
            { register: "r", id: "2", title: "Loft", did: "left alone" },
          ],
        },
      },
      "Step w: changed Cold room; left alone Loft",
    ],
    [
      "many written",
      {
        type: "effect done",
        effect: "e",
        step: "w",
        kind: "write",
        result: {
          records: Array.from({ length: 6 }, (_, i) => ({
            register: "r",
            id: String(i),
            title: `Box ${i}`,
            did: "added" as const,
          })),
        },
      },
      "Step w: added Box 0, Box 1, Box 2, Box 3 and 2 more",
    ],
    [
      "nothing written",
      { type: "effect done", effect: "e", step: "w", kind: "write", result: { records: [] } },
      "Step w: nothing to write",
    ],
    [
      "told",
      { type: "effect done", effect: "e", step: "", kind: "tell", result: { people: ["una"] } },
      "UNA was told",
    ],
    [
      "several told",
      { type: "effect done", effect: "e", step: "", kind: "tell", result: { people: ["una", "fergus"] } },
      "UNA, FERGUS were told",
    ],
    [
      "reminded",
      { type: "rung fired", timer: "x", visit: "v", step: "check", rung: "r", did: "remind", found: true },
      "A reminder was sent",
    ],
    [
      "a rung in vain",
      {
        type: "rung fired",
        timer: "x",
        visit: "v",
        step: "check",
        rung: "r",
        did: "hand over",
        found: false,
      },
      "The ladder found nobody to hand over",
    ],
    [
      "rung that could not be told whom",
      {
        type: "rung fired",
        timer: "m",
        visit: "v",
        step: "check",
        rung: "r",
        did: "hand over",
        found: false,
        unclear: {
          code: "unclear",
          data: { step: "check", formula: "Finder", why: "“Finder” cannot be read." },
        },
      },
      "The ladder could not hand over: “Finder” cannot be worked out. “Finder” cannot be read.",
    ],
    [
      "stuck",
      { type: "got stuck", token: "k", step: "size", reason: { code: "no-way", data: { step: "By size" } } },
      'At "By size" no condition holds, so there is no way on.',
    ],
    ["retried", { type: "got unstuck", token: "k", step: "size", how: "retried" }, "tried “Step size” again"],
    [
      "a way chosen by an owner",
      { type: "way chosen", token: "k", step: "size", way: "w", label: "large", note: "n" },
      "let the request go on at “Step size” as: large",
    ],
    [
      "a step left out by an owner",
      { type: "way chosen", token: "k", step: "size", way: null, label: "", note: "n" },
      "let the request go on without “Step size”",
    ],
    [
      "another limit",
      { type: "limit changed", visit: "v", step: "size", due: 1, note: "n" },
      "Step size: another limit, Thu 12 Mar, 17:00",
    ],
    ["reminded", { type: "reminded", task: "t1", note: "" }, "reminded UNA"],
    [
      "called off",
      { type: "task closed", task: "t1", reason: "ended" },
      "Step check: called off for UNA, for the request ended",
    ],
    ["skipped", { type: "got unstuck", token: "k", step: "size", how: "skipped" }, "skipped Step size"],
    [
      "finished",
      { type: "request finished", step: "end", result: "key returned", tone: "agree" },
      "Finished: key returned",
    ],
    ["withdrawn", { type: "request withdrawn", note: "not needed" }, "withdrew the request"],
    ["cancelled", { type: "request cancelled", note: "" }, "cancelled the request"],
  ])("%s", (_, e, want) => expect(line(e)!.text).toBe(want));

  it("leaves out what means nothing to a reader", () => {
    const quiet: EventBody[] = [
      { type: "token moved", token: "k", step: "a" },
      { type: "timer cleared", timer: "t" },
      { type: "got unstuck", token: "k", step: "size", how: "chosen" },
      { type: "branch ended", token: "k", step: "a" },
      {
        type: "step decided",
        visit: "v",
        step: "check",
        answer: "yes",
        label: "Approve",
        note: "",
        given: 1,
      },
      { type: "rung fired", timer: "x", visit: "v", step: "check", rung: "r", did: "hand over", found: true },
    ];
    expect(quiet.map((e) => line(e))).toEqual(quiet.map(() => null));
  });

  it("carries who, when, the note, and why with its values", () => {
    const why = [{ text: "Total > 500", values: "612.4 > 500", result: "yes", reads: ["Total"] }];
    expect(
      line({ type: "step did", step: "size", did: { kind: "choose", way: "w", name: "large", why } }, null),
    ).toMatchObject({
      seq: 3,
      at: 1000,
      by: null,
      why,
    });
    expect(
      line({ type: "answer given", task: "t1", answer: "no", label: "Decline", note: "Too dear" }),
    ).toMatchObject({ by: "una", note: "Too dear" });
    expect(line({ type: "request finished", step: "end", result: "declined", tone: "refuse" })!.tone).toBe(
      "refuse",
    );
  });
});

describe("what is stuck", () => {
  const at = (e: EventBody, seq: number, ms = 5) =>
    ({ ...e, seq, at: ms, by: e.type === "got stuck" ? null : "una" }) as Parameters<typeof trailLine>[0];
  const stuck: EventBody = {
    type: "got stuck",
    token: "k",
    step: "size",
    reason: { code: "no-way", data: { step: "By size" } },
  };
  const tried: EventBody = { type: "got unstuck", token: "k", step: "size", how: "retried" };
  const said = (...events: Parameters<typeof trailLine>[0][]) =>
    trailLines(events, names, KINDS).map((l) => l.text);

  it("is told as tried again only when it went on", () => {
    expect(said(at(tried, 1), at(stuck, 2))).toEqual([
      'tried again; nothing went on: At "By size" no condition holds, so there is no way on.',
    ]);
    const moved: EventBody = { type: "token moved", token: "k", step: "next" };
    expect(said(at(tried, 1), at(moved, 2), at({ ...stuck, step: "next" }, 3))[0]).toBe(
      "tried “Step size” again",
    );
    expect(said(at(tried, 1), at(stuck, 2, 99))).toHaveLength(2);
    expect(said(at(tried, 1), at({ ...stuck, token: "k2" }, 2))).toHaveLength(2);
  });
  it("tells whoever cannot mend it that others have been told", () => {
    const [line] = trailLines([at(stuck, 1)], { ...names, mends: false }, KINDS);
    expect(line!.text).toBe("Held up at “Step size”. The owners of the process have been told");
  });
});
