import fc from "fast-check";
import { isEnded } from ".";
import { IDS } from "./testOffice";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

/**
 * A task that is handed over, for good or to be had back, by whoever has it, while people leave and come back; against a
 * model that keeps a pile of those who want it back and looks through it from the top.
 */
const deed = fc.record({
  do: fc.constantFrom("lend", "lend", "hand over", "answer", "answer", "leave", "come back", "reassign"),
  person: fc.constantFrom(...IDS),
  answer: fc.constantFrom("yes", "no"),
});
const answers = ["yes", "no"].map((id) => ans(id, id === "yes" ? "agree" : "refuse", [fin(`end-${id}`, id)]));

it("only what is answered by somebody whom nobody wants it back from decides", () => {
  const seen: Record<string, number> = {};
  const count = (what: string) => (seen[what] = (seen[what] ?? 0) + 1);
  fc.assert(
    fc.property(fc.array(deed, { minLength: 3, maxLength: 25 }), (deeds) => {
      const h = harness(definitionOf([decideBy("check", { by: "person", person: "carmel" }, answers)]));
      h.start();
      const { id } = h.open()[0]!;
      let has = "carmel";
      let pile: string[] = [];
      let decided: { by: string; answer: string } | null = null;
      for (const d of deeds) {
        if (isEnded(h.state)) break;
        const may = d.person !== has && d.person !== "una" && !h.left.has(d.person);
        const handing = { task: id, to: d.person, note: "Please" };
        switch (d.do) {
          case "lend":
          case "hand over": {
            const back = d.do === "lend";
            const done = h.send({ type: "hand over", actor: has, ...handing, back });
            expect(done.ok).toBe(may);
            if (!may) break;
            pile = (back ? [has, ...pile] : pile).filter((p) => p !== d.person);
            has = d.person;
            count(d.do);
            break;
          }
          case "reassign":
            expect(h.send({ type: "reassign", actor: "owner", ...handing }).ok).toBe(may);
            if (may) [has, pile] = [d.person, []];
            break;
          case "answer": {
            const done = h.send({
              type: "answer",
              actor: has,
              task: id,
              answer: d.answer,
              note: "",
              data: {},
            });
            expect(done.ok).toBe(true);
            while (pile[0] !== undefined && (h.left.has(pile[0]) || pile[0] === has)) pile.shift();
            const next = pile.shift();
            if (next === undefined) {
              decided = { by: has, answer: d.answer };
              count("decided");
            } else {
              has = next;
              count("came back");
            }
            break;
          }
          case "leave":
            // Whoever has it is seen to by the office when they leave.
            if (d.person !== has) h.left.add(d.person);
            break;
          case "come back":
            h.left.delete(d.person);
            break;
        }
        const task = h.state.tasks[id]!;
        if (decided) {
          expect([h.state.result?.name, task.by, task.answer]).toEqual([
            decided.answer,
            decided.by,
            decided.answer,
          ]);
          break;
        }
        expect([h.state.status, task.holder, task.back ?? []]).toEqual(["under way", has, pile]);
      }
      expect(h.events.filter((e) => e.type === "answer given")).toHaveLength(decided ? 1 : 0);
    }),
    { seed: 1713, numRuns: 1500 },
  );
  for (const what of ["lend", "hand over", "came back", "decided"])
    expect([what, (seen[what] ?? 0) > 300]).toEqual([what, true]);
}, 120_000);
