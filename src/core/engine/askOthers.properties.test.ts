import fc from "fast-check";
import type { Assignment, Step } from "../route";
import { isOpen } from "./state";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

/** Whoever comes and goes, what must always hold of the tasks of a request. */
const PEOPLE = ["una", "brendan", "carmel", "declan", "eithne", "fergus"];
const person = fc.constantFrom(...PEOPLE);
const deed = fc.oneof(
  fc.record({ do: fc.constant("away" as const), who: person, cover: person }),
  fc.record({ do: fc.constant("back" as const), who: person }),
  fc.record({ do: fc.constant("leaves" as const), who: person }),
  fc.record({
    do: fc.constant("answers" as const),
    who: person,
    answer: fc.constantFrom("yes", "no", "back"),
  }),
  fc.record({ do: fc.constant("takes" as const), who: person }),
  fc.record({ do: fc.constant("hands" as const), who: person, to: person }),
);
const rule = fc.constantFrom<Assignment["rule"][]>(
  { by: "manager" },
  { by: "group", group: "registry" },
  { by: "duty", duty: "Director" },
);
const who = fc.record({
  rule,
  how: fc.constantFrom("one", "first", "all", "share"),
  fallback: fc.option(rule, { nil: undefined }),
  requesterToo: fc.boolean(),
});

it("nobody waits for somebody who left, nobody decides their own request, and looking twice is looking once", () => {
  let moved = 0;
  fc.assert(
    fc.property(who, fc.array(deed, { minLength: 1, maxLength: 14 }), ({ fallback, ...w }, deeds) => {
      const answers = [ans("yes", "agree"), ans("no", "refuse"), ans("back", "plain", [], { returns: true })];
      const step = {
        ...decideBy("check", w.rule, answers),
        who: { ...w, ...(fallback ? { fallback } : {}) },
      } as Step;
      const away: Record<string, string> = {};
      const h = harness(definitionOf([step, fin("end", "done")]), away);
      h.start();
      for (const d of deeds) {
        if (d.do === "away") away[d.who] = d.cover;
        if (d.do === "back") delete away[d.who];
        if (d.do === "leaves") h.left.add(d.who);
        const task = h.open().find((t) => t.candidates.some((c) => c.person === d.who));
        if (task && d.do === "answers")
          h.send({ type: "answer", actor: d.who, task: task.id, answer: d.answer, note: "", data: {} });
        if (task && d.do === "takes") h.send({ type: "take", actor: d.who, task: task.id });
        if (task && d.do === "hands")
          h.send({ type: "hand over", actor: d.who, task: task.id, to: d.to, note: "" });
        const given = Object.values(h.state.tasks).filter((t) => t.status === "answered");
        const first = h.send({ type: "ask others" });
        const again = h.send({ type: "ask others" });
        if (!first.ok || !again.ok) throw new Error("refused");
        if (first.events.length > 0) moved++;
        expect(again.events).toEqual([]);
        const { state } = h;
        for (const t of given) expect(state.tasks[t.id]).toEqual(t);
        for (const t of h.open()) {
          const answering = t.holder ? [t.holder] : t.candidates.map((c) => c.person);
          // Changes wait for a requester who has left only where nobody stands above them.
          if (t.purpose !== "changes") expect(answering.filter((p) => h.left.has(p))).toEqual([]);
          if (t.purpose !== "changes" && !w.requesterToo) expect(answering).not.toContain("una");
        }
        for (const v of Object.values(state.visits)) {
          const tasks = Object.values(state.tasks).filter((t) => t.visit === v.id);
          expect(tasks.some(isOpen)).toBe(true);
          const counted = tasks.filter((t) => t.status !== "closed");
          if (w.how !== "one" && v.purpose !== "changes") {
            expect(v.asked).toBe(counted.length);
            const votes = counted.flatMap((t) => t.by ?? t.candidates.map((c) => c.person));
            expect(new Set(votes).size).toBe(votes.length);
          }
        }
        if (state.status === "under way") expect(Object.keys(state.visits)).toHaveLength(1);
      }
    }),
    { seed: 5, numRuns: 1000 },
  );
  expect(moved).toBeGreaterThan(300);
});
