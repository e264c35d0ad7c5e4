import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { processDefinition } from "@/contracts";
import { isOpen, NEW_REQUEST, replay } from "@/core/engine";
import { harness, proceduresOf, T0 } from "@/core/engine/testRequest";
import { problemsOf } from "@/core/problems";
import { readProcess } from "@/formats";
import { KINDS } from "@/kinds";

/**
 * One small process for each control-flow pattern of the Workflow Patterns catalogue (van der Aalst, Russell, ter
 * Hofstede) that routes can say; docs/patterns.md lists the others with the reason.
 */
const FOLDER = join(__dirname, "processes");
const FILES = readdirSync(FOLDER).map((f) => f.replace(/\.json$/, ""));
const read = (file: string) => readProcess(JSON.parse(readFileSync(join(FOLDER, `${file}.json`), "utf8")));

/** Those that others hand to. */
const INSIDE = FILES.filter((f) => read(f).procedure);
const procedures = proceduresOf(Object.fromEntries(INSIDE.map((f) => [read(f).key, [read(f)]])));

/** Runs one, and says where it stands by the names of the steps at which somebody is asked. */
function play(file: string, data: Record<string, string> = {}) {
  played.add(file);
  const h = harness(read(file), {}, {}, () => ({}), procedures);
  h.start(data);
  const nameOf = (step: string) => h.open().find((t) => t.step === step)!;
  return {
    at: () =>
      h
        .open()
        .map((t) => t.step.split("~").at(-1)!.toUpperCase())
        .sort()
        .join(" "),
    /** @param which of several of one name */
    say(name: string, answer = "yes", which = 0) {
      const task =
        h.open().filter((t) => t.step.split("~").at(-1) === name.toLowerCase())[which] ?? nameOf(name);
      const done = h.send({ type: "answer", actor: task.holder!, task: task.id, answer, note: "", data: {} });
      if (!done.ok) throw new Error(JSON.stringify(done.refusal));
      expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
    },
    done: () => h.state.status === "finished" && Object.values(h.state.tasks).every((t) => !isOpen(t)),
    h,
  };
}
const played = new Set<string>();
afterAll(() => expect([...played, ...INSIDE].sort()).toEqual(FILES.sort()));

it.each(FILES)("%s is a process that could be released", (file) => {
  const d = read(file);
  expect(processDefinition.safeParse(d).error).toBeUndefined();
  const errors = problemsOf(d, { kinds: KINDS, registers: {} }).filter((p) => p.severity === "error");
  expect(errors.map((p) => p.message)).toEqual([]);
});

it("1 sequence", () => {
  const p = play("01-sequence");
  expect(p.at()).toBe("A");
  p.say("A");
  expect(p.at()).toBe("B");
  p.say("B");
  expect(p.done()).toBe(true);
});
it("2 parallel split", () => expect(play("02-parallel-split").at()).toBe("A B"));
it.each([["A"], ["B"]])("3 synchronization, %s first", (first) => {
  const p = play("03-synchronization");
  p.say(first);
  expect(p.at()).toBe(first === "A" ? "B" : "A");
  p.say(first === "A" ? "B" : "A");
  expect(p.at()).toBe("C");
});
it("4 exclusive choice", () => {
  expect(play("04-exclusive-choice", { number: "11" }).at()).toBe("A");
  expect(play("04-exclusive-choice", { number: "10" }).at()).toBe("B");
});
it.each([
  ["11", "A"],
  ["10", "B"],
])("5 simple merge, %s", (number, way) => {
  const p = play("05-simple-merge", { number });
  p.say(way);
  expect(p.at()).toBe("C");
});
it("6 multi-choice", () => {
  expect(play("06-multi-choice", { number: "15" }).at()).toBe("A");
  expect(play("06-multi-choice", { number: "25" }).at()).toBe("A B");
  expect(play("06-multi-choice", { number: "35" }).at()).toBe("A B C");
  expect(play("06-multi-choice", { number: "5" }).done()).toBe(true);
});
it("7 structured synchronizing merge: those that were taken are waited for, and no others", () => {
  const p = play("07-structured-synchronizing-merge", { number: "25" });
  p.say("B");
  expect(p.at()).toBe("A");
  p.say("A");
  expect(p.at()).toBe("D");
  expect(play("07-structured-synchronizing-merge", { number: "5" }).at()).toBe("D");
});
it("8 multi-merge: what follows is gone through once for each branch", () => {
  const p = play("08-multi-merge");
  expect(p.at()).toBe("A B");
  p.say("A");
  expect(p.at()).toBe("B C");
  p.say("B");
  expect(p.at()).toBe("C C");
  p.say("C");
  p.say("C");
  expect(p.done()).toBe(true);
});
it("9 structured discriminator: goes on with the first, the others run on and count for nothing", () => {
  const p = play("09-structured-discriminator");
  p.say("B");
  expect(p.at()).toBe("A C D");
  p.say("A");
  p.say("C");
  expect(p.at()).toBe("D");
  p.say("D");
  expect(p.done()).toBe(true);
});
it("10 arbitrary cycles: with more than one way in and out", () => {
  const p = play("10-arbitrary-cycles", { number: "11" });
  expect(p.at()).toBe("B");
  p.say("B", "back");
  expect(p.at()).toBe("A");
  p.say("A");
  p.say("B", "on");
  p.say("C", "back");
  expect(p.at()).toBe("B");
  p.say("B", "on");
  p.say("C", "on");
  expect(p.done()).toBe(true);
});
it("11 implicit termination: it ends when nothing is left to do", () => {
  const p = play("11-implicit-termination");
  p.say("A");
  expect(p.at()).toBe("B");
  p.say("B");
  expect(p.done()).toBe(true);
});
it("12 multiple instances without synchronization", () => {
  const p = play("12-instances-without-synchronization");
  expect(p.at()).toBe("A A A B");
  p.say("A", "yes", 1);
  expect(p.at()).toBe("A A B");
});
it("13 multiple instances, their number known at design", () => {
  const p = play("13-instances-known-at-design");
  expect(p.at()).toBe("A A A");
  for (let i = 0; i < 3; i++) p.say("A");
  expect(p.at()).toBe("B");
});
it("14 multiple instances, their number known when it runs", () => {
  const p = play("14-instances-known-at-run-time", { number: "2" });
  expect(p.at()).toBe("A A");
  p.say("A", "yes", 1);
  p.say("A");
  expect(p.at()).toBe("B");
  expect(play("14-instances-known-at-run-time", { number: "0" }).at()).toBe("B");
});
it("16 deferred choice: whichever comes first, the other way is no more", () => {
  const p = play("16-deferred-choice");
  expect(p.at()).toBe("A");
  p.say("A");
  expect(p.at()).toBe("C");
  expect(p.h.state.sleeps).toEqual({});
  const late = play("16-deferred-choice");
  late.h.at(T0 + 3 * 3_600_000);
  late.h.send({ type: "time reached", timer: Object.keys(late.h.state.timers)[0]! });
  late.say("B");
  expect(late.at()).toBe("C");
});
it("17 interleaved parallel routing: each once, one at a time, B after A, in whichever order somebody wants", () => {
  const p = play("17-interleaved-parallel-routing");
  // Not before A.
  p.say("NEXT", "b");
  expect(p.at()).toBe("NEXT");
  for (const x of ["c", "a", "b"]) {
    p.say("NEXT", x);
    expect(p.at()).toBe(x.toUpperCase());
    p.say(x);
  }
  expect(p.at()).toBe("END");
});
it("18 milestone: what is asked only between two steps of another branch", () => {
  const p = play("18-milestone");
  expect(p.at()).toBe("A");
  p.say("A");
  expect(p.at()).toBe("B X");
  p.say("B");
  expect(p.done()).toBe(true);
  const q = play("18-milestone");
  q.say("A");
  q.say("X");
  expect(q.at()).toBe("B");
});
it("19 cancel task: an owner lets the request go on without it", () => {
  const p = play("19-cancel-task");
  const [task] = p.h.open();
  p.h.send({ type: "skip", actor: "eithne", token: task!.token, way: "yes", note: "Not needed." });
  expect(p.at()).toBe("B");
});
it("20 cancel case", () => {
  const p = play("20-cancel-case");
  expect(p.at()).toBe("A B B");
  p.h.send({ type: "cancel", actor: "una", note: "" });
  expect(p.at()).toBe("");
  expect(p.h.state).toMatchObject({ status: "cancelled", tokens: {}, timers: {} });
});
it("21 structured loop", () => {
  const p = play("21-structured-loop");
  for (let i = 0; i < 3; i++) {
    expect(p.at()).toBe("A");
    p.say("A");
  }
  expect(p.at()).toBe("B");
});
it("22 recursion: a procedure that hands to itself", () => {
  const p = play("22-recursion", { number: "4" });
  expect(p.at()).toBe("A");
  expect(p.h.open()[0]!.step).toBe("h~again~again~again~a");
  p.say("A");
  expect(p.h.state.data["word"]).toBe("24");
  expect(p.at()).toBe("B");
});
it("24 persistent trigger: what came before anybody waited for it is not lost", () => {
  const late = play("24-persistent-trigger");
  late.say("B");
  late.say("A");
  expect(late.at()).toBe("C");
  const early = play("24-persistent-trigger");
  early.say("A");
  expect(early.at()).toBe("B");
  early.say("B");
  expect(early.at()).toBe("C");
});
it("25 cancel region: all of a branch, wherever it stands", () => {
  const p = play("25-cancel-region");
  p.say("B");
  expect(p.at()).toBe("A C D");
  p.say("A");
  expect(p.at()).toBe("E");
});
it("26 cancel multiple instances", () => {
  const p = play("26-cancel-instances");
  p.say("B");
  expect(p.at()).toBe("A B B B");
  p.say("A");
  expect(p.at()).toBe("C");
});
it("27 complete multiple instances: what has been done counts, the rest is no more", () => {
  const p = play("27-complete-instances");
  p.say("A", "yes", 2);
  p.say("A", "enough", 0);
  expect(p.at()).toBe("B");
  expect(p.h.state.data["word"]).toBe("Enough Yes");
});
it("29 cancelling discriminator", () => {
  const p = play("29-cancelling-discriminator");
  p.say("C");
  expect(p.at()).toBe("D");
});
it("30 structured partial join", () => {
  const p = play("30-structured-partial-join");
  p.say("C");
  expect(p.at()).toBe("A B");
  p.say("A");
  expect(p.at()).toBe("B D");
  p.say("B");
  expect(p.at()).toBe("D");
});
it("32 cancelling partial join", () => {
  const p = play("32-cancelling-partial-join");
  p.say("C");
  p.say("A");
  expect(p.at()).toBe("D");
});
it("35 cancelling partial join of multiple instances", () => {
  const p = play("35-cancelling-partial-join-of-instances");
  p.say("A");
  expect(p.at()).toBe("A A A A");
  p.say("A", "yes", 1);
  expect(p.at()).toBe("B");
});
it.each([
  ["A", "C", "B", "D"],
  ["B", "D", "A", "C"],
])("39 critical section, %s first: the two are never at it together", (first, its, second, other) => {
  const p = play("39-critical-section");
  p.say(first);
  expect(p.at()).toBe([its, second].sort().join(" "));
  p.say(second);
  expect(p.at()).toBe(its);
  p.say(its);
  expect(p.at()).toBe(other);
  p.say(other);
  expect(p.done()).toBe(true);
});
it("40 interleaved routing: each once, one at a time, in whichever order somebody wants", () => {
  for (const order of ["abc", "cba", "bca"]) {
    const p = play("40-interleaved-routing");
    for (const x of order) {
      p.say("NEXT", x);
      expect(p.at()).toBe(x.toUpperCase());
      p.say(x);
      if (x === order.at(-1)) break;
      // What was done is not done again.
      p.say("NEXT", x);
      expect(p.at()).toBe("NEXT");
    }
    expect(p.at()).toBe("END");
  }
});
it("41 thread merge", () => {
  const p = play("41-thread-merge");
  p.say("A");
  p.say("A");
  expect(p.at()).toBe("A");
  p.say("A");
  expect(p.at()).toBe("B");
});
it("42 thread split", () => {
  const p = play("42-thread-split");
  expect(p.at()).toBe("A A A");
  p.say("A");
  expect(p.at()).toBe("A A B");
});
it("43 explicit termination: it ends at once, whatever is open", () => {
  const p = play("43-explicit-termination");
  expect(p.at()).toBe("A B");
  p.say("A", "stop");
  expect(p.done()).toBe(true);
  expect(p.h.state.result).toMatchObject({ name: "stopped" });
});
