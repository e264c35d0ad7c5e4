import { personParty } from "../form";
import fc from "fast-check";
import { KINDS } from "@/kinds";
import { comesWithout, flowOf, placesOf } from "../route";
import { shape, type Shape } from "./testRoutes";
import { Run } from "./testRun";
import { isEnded } from "./state";

/** Branches that conditions leave out, and lists that are empty, are not thought of. */
const isThoughtOf = (shapes: readonly Shape[]): boolean =>
  JSON.stringify(shapes).match(/"each"|"conditional":true/) === null;

it("wherever a request came without a step, it is said that it can", () => {
  let held = 0;
  let refused = 0;
  fc.assert(
    fc.property(
      fc.array(shape, { minLength: 1, maxLength: 5 }),
      fc.nat(1000),
      fc.array(fc.nat(100_000), { minLength: 40, maxLength: 80 }),
      (shapes, total, picks) => {
        fc.pre(isThoughtOf(shapes));
        const run = new Run(shapes);
        let i = 0;
        const pick = () => picks[i++ % picks.length]! + i;
        const data = { total: String(total), note: "7" };
        run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
        for (let k = 0; k < 30 && !isEnded(run.state); k++) run.random(pick);
        const { definition } = run.release;
        const places = placesOf(definition, KINDS);
        const flow = flowOf(definition, places, KINDS);
        const passed = new Set<string>();
        const came = new Map<string, Set<string>>();
        for (const e of run.events) {
          // Where an owner let it go on, it went as no route leads.
          if (e.type === "way chosen") break;
          if (e.type !== "token placed" && e.type !== "token moved" && e.type !== "errand placed") continue;
          if (!places.has(e.step)) continue;
          if (!came.has(e.step)) came.set(e.step, new Set(passed));
          passed.add(e.step);
        }
        for (const id of places.keys()) {
          const can = comesWithout(definition, places, flow, KINDS, new Set([id]));
          refused += places.size - can.size;
          for (const [step, before] of came) {
            if (step === id || before.has(id)) continue;
            held++;
            expect([step, id, can.has(step)]).toEqual([step, id, true]);
          }
        }
      },
    ),
    { seed: 20265, numRuns: 400, endOnFailure: true, maxSkipsPerRun: 400 },
  );
  expect(held).toBeGreaterThan(1000);
  expect(refused).toBeGreaterThan(500);
}, 120_000);
