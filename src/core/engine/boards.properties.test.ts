import fc from "fast-check";
import type { PlainRule } from "@/rules/shapes";
import type { Assignment, Rule, Rung, Step } from "../route";
import { isEnded, isOpen, isQuestion, NEW_REQUEST, replay } from ".";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";
import { IDS } from "./testOffice";
import { votedBy, VOTE_IDS, VOTES, type VoteId } from "./testVotes";

/**
 * Boards that decide: whoever is found, however many of them, whatever they answer, to whomever they hand it, whoever
 * leaves and goes away meanwhile, and whatever a ladder does; held against trying every way it may still go.
 */
const REGISTRY: PlainRule = { by: "group", group: "registry" };
const rule = fc.constantFrom<Rule>(
  REGISTRY,
  { by: "people", where: 'Department = "Registry"' },
  { by: "manager", of: "Requester", line: true, levels: 5 },
  { by: "answered", step: "first" },
  { by: "person", person: "fergus", others: ["una", "carmel", "brendan"] },
  { by: "several", take: "all", of: [{ by: "head" }, REGISTRY, { by: "manager" }] },
  { by: "outside", to: '["guest@away.example", "carmel@quillhaven.example", "una@quillhaven.example"]' },
  { by: "several", take: "all", of: [REGISTRY, { by: "outside", to: '"guest@away.example"' }] },
  { by: "several", take: "first", of: [{ by: "requester" }, { by: "answered", step: "first" }, REGISTRY] },
);
const how = fc.constantFrom<Partial<Assignment>>(
  { how: "one" },
  { how: "one", turns: "in turn" },
  { how: "first" },
  { how: "all" },
  { how: "all", waits: true },
  { how: "share", share: 50, ties: "first" },
  { how: "share", share: 67 },
  { how: "number", number: 2, wins: "yes" },
  { how: "order" },
  { how: "order", waits: true },
);
const who = fc
  .record({ rule, how, apart: fc.boolean(), manager: fc.boolean(), saved: fc.boolean() })
  .map(({ rule: of, how: many, apart, manager, saved }): Assignment => ({
    how: "one",
    ...many,
    rule: of,
    ...(apart ? { never: [{ by: "answered" as const, step: "first" }] } : {}),
    ...(manager ? { instead: "manager" as const } : {}),
    ...(saved ? { fallback: { by: "duty" as const, duty: "Director" } } : {}),
  }));
const ladder: Rung[] = [
  { id: "more", when: "at", action: { do: "add", who: { by: "duty", duty: "Director" } } },
  {
    id: "over",
    when: "after",
    length: { amount: 1, unit: "days" },
    every: { amount: 1, unit: "days" },
    times: 2,
    action: { do: "hand over", to: { by: "manager" } },
  },
];
const deed = fc.record({
  do: fc.constantFrom(
    "answer",
    "answer",
    "answer",
    "hand over",
    "ask",
    "leave",
    "come back",
    "away",
    "away in a duty",
    "keeps",
    "take back",
    "look",
    "time",
  ),
  which: fc.nat(20),
  person: fc.constantFrom(...IDS),
  answer: fc.constantFrom(...VOTE_IDS),
});

const answers = VOTES.map((a) =>
  ans(a.id, a.tone, [fin(`end-${a.id}`, a.id, a.tone)], "abstains" in a ? { abstains: true } : {}),
);

it("a board decides exactly when it is certain, by nobody twice, by nobody kept apart, and never hangs", () => {
  const seen: Record<string, number> = {};
  const count = (what: string) => (seen[what] = (seen[what] ?? 0) + 1);
  fc.assert(
    fc.property(
      who,
      fc.array(deed, { minLength: 4, maxLength: 24 }),
      fc.constantFrom("carmel", "declan", "fergus"),
      fc.constantFrom("asker", "anybody", undefined),
      (asked, deeds, first, still) => {
        const away: Record<string, string> = {};
        const otherwise = { amount: 1, unit: "days" as const };
        const limit = { otherwise, rungs: ladder, ...(still ? { still } : {}) };
        const board = { ...decideBy("check", asked.rule, answers, { limit }), who: asked } as Step;
        const h = harness(
          definitionOf([decideBy("first", REGISTRY, [ans("yes", "agree")]), board]),
          away,
          {},
          () => ({ loads: {} }),
        );
        h.start();
        h.answer(first, "yes");
        let now = Date.UTC(2026, 2, 3, 10);
        for (const d of deeds) {
          if (isEnded(h.state)) break;
          const open = h.open();
          const t = open[d.which % Math.max(open.length, 1)];
          const actor = t?.holder ?? t?.candidates[d.which % t.candidates.length]?.person;
          if (d.do === "answer" && t && actor)
            h.send({
              type: "answer",
              actor,
              task: t.id,
              answer: isQuestion(t) ? "said" : d.answer,
              note: "n",
              data: {},
            });
          if (d.do === "hand over" && t && actor)
            h.send({
              type: "hand over",
              actor,
              task: t.id,
              to: d.person,
              note: "",
              back: d.which % 3 > 0,
            });
          if (d.do === "ask" && t && actor)
            h.send({ type: "ask", actor, task: t.id, to: d.which % 2 ? null : d.person, note: "Why?" });
          if (d.do === "leave" && d.person !== "una") h.left.add(d.person);
          if (d.do === "come back") h.left.delete(d.person);
          if (d.do === "away") away[d.person] = IDS[d.which % IDS.length]!;
          if (d.do === "away in a duty") away[`${d.person} as Director`] = IDS[d.which % IDS.length]!;
          if (d.do === "keeps") away[`${d.person} keeps`] = "yes";
          const back = t?.candidates.find((x) => x.for)?.for;
          if (d.do === "take back" && t && back) {
            if (d.which % 2) delete away[back];
            h.send({ type: "take back", actor: back, task: t.id });
          }
          if (d.do === "look") h.send({ type: "ask others" });
          const timer = Object.values(h.state.timers).sort((a, b) => a.at - b.at)[0];
          if (d.do === "time" && timer) {
            now = Math.max(now, timer.at);
            h.at(now);
            h.send({ type: "time reached", timer: timer.id });
            // A second worker has the same job.
            h.send({ type: "time reached", timer: timer.id });
          }
          count(d.do);
          if (h.open().some(isQuestion)) count("asked");
          if (h.open().some((x) => x.proposed)) count("came back");
          if (Object.values(h.state.visits).some((v) => v.stopped)) count("stopped");
          holds();
        }
        holds();

        function holds() {
          expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
          const { visits, tasks, stuck, status } = h.state;
          const fired = h.events.flatMap((e) => (e.type === "rung fired" ? [e.timer] : []));
          expect(new Set(fired).size).toBe(fired.length);
          const openNow = Object.values(tasks).filter(isOpen);
          for (const t of openNow) {
            expect(visits[t.visit]).toBeDefined();
            const people = t.candidates.map((c) => c.person);
            if (t.purpose !== "question") expect(people).not.toContain("una");
            expect(t.question && !isOpen(tasks[t.question.of]!)).not.toBe(true);
            if (!isQuestion(t) && asked.never && t.step === "check") expect(people).not.toContain(first);
          }
          for (const v of Object.values(visits).filter((x) => !isQuestion(x))) {
            const of = Object.values(tasks).filter((t) => t.visit === v.id);
            const given = of.filter((t) => t.status === "answered");
            expect(v.asked).toBe(given.length + of.filter(isOpen).length + (v.rest?.length ?? 0));
            // Somebody has it: it never waits for nobody.
            expect(of.filter(isOpen).length).toBeGreaterThan(0);
            const voters = given.map((t) => t.by);
            expect(new Set(voters).size).toBe(voters.length);
            for (const t of of.filter(isOpen)) {
              // Nobody gets back what they have.
              for (const c of t.candidates) expect(t.back ?? []).not.toContain(c.person);
              expect(t.back?.length).not.toBe(0);
            }
            if (asked.how !== "one")
              for (const t of of.filter(isOpen))
                for (const c of t.candidates) expect(voters).not.toContain(c.person);
            if (v.step !== "check" || given.length === 0 || asked.how === "one" || asked.how === "first")
              continue;
            const votes = given.map((t) => t.answer as VoteId);
            expect(votedBy(asked, VOTE_IDS, votes, v.asked - given.length)).toBeNull();
          }
          if (isEnded(h.state)) expect(openNow).toEqual([]);
          else expect(Object.keys(visits).length + stuck.length).toBeGreaterThan(0);
          if (status === "stuck") count("stuck");
          const at = h.events.findIndex((e) => e.type === "step decided" && e.step === "check");
          const decided = h.events[at];
          if (decided?.type !== "step decided" || asked.how === "one" || asked.how === "first") return;
          const before = replay(h.events.slice(0, at), NEW_REQUEST);
          const v = before.visits[decided.visit]!;
          const votes = Object.values(before.tasks).flatMap((t) =>
            t.visit === v.id && t.status === "answered" ? [t.answer as VoteId] : [],
          );
          const slow = votedBy(asked, VOTE_IDS, votes, v.asked - votes.length);
          expect(decided.answer).toBe(slow?.answer);
          expect(h.state.result?.name).toBe(slow?.answer);
          count("decided");
        }
      },
    ),
    { seed: 1711, numRuns: 1000 },
  );
  for (const what of ["decided", "stuck", "time", "leave", "hand over", "asked", "stopped", "came back"])
    expect([what, (seen[what] ?? 0) > 60]).toEqual([what, true]);
}, 240_000);
