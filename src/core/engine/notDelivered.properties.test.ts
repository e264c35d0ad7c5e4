import fc from "fast-check";
import { inCall, isEnded, type Command, type RequestEvent } from ".";
import { personParty } from "../form";
import { shape, type Shape } from "./testRoutes";
import { ROWS, Run } from "./testRun";
import { mustHold } from "./testSound";

const mail = fc.array(shape, { maxLength: 2 }).map((back): Shape => ({ s: "mail", back }));
/** Mails among other steps, in rounds, in branches and in procedures. */
const route = fc
  .tuple(mail, fc.array(fc.oneof(shape, mail), { minLength: 1, maxLength: 3 }), fc.nat(3))
  .map(([first, rest, where]): Shape[] => {
    const ask: Shape = { s: "complete", who: 1, beside: 4 };
    const inside = [first, ask, ...rest];
    switch (where) {
      case 0:
        return inside;
      case 1:
        return [{ s: "each", over: "list", pace: 0, until: false, more: 0, body: inside }, ask];
      case 2:
        return [
          {
            s: "together",
            branches: [inside, [ask, ask]],
            conditional: false,
            needs: 0,
            until: 5,
            runOn: false,
          },
        ];
      default:
        return [{ s: "hand to", body: inside }, ask];
    }
  });

type NotDelivered = Extract<Command, { type: "not delivered" }>;
/** What was sent so far, as whoever sends it knows it: by ids that are known outside of procedures. */
function sent(
  events: readonly RequestEvent[],
  outside: (id: string) => string = (id) => id,
): NotDelivered["effect"][] {
  return events.flatMap((e) => {
    if (e.type === "in call") return sent([e.event], (id) => outside(inCall(e.call, id)));
    if (e.type !== "effect asked" || e.effect.kind !== "tell" || !e.effect.mail) return [];
    return [{ id: outside(e.effect.id), step: e.effect.step, scope: e.effect.scope ?? null }];
  });
}
const deep = (events: readonly RequestEvent[]): RequestEvent[] =>
  events.flatMap((e) => (e.type === "in call" ? deep([e.event]) : [e]));

it("mail that comes back at any time, also twice or after the end, leaves everything sound, and the request ends", () => {
  const came = { told: 0, sentOut: 0, inRounds: 0, late: 0, moved: 0 };
  fc.assert(
    fc.property(route, fc.array(fc.nat(100_000), { minLength: 40, maxLength: 90 }), (shapes, picks) => {
      const run = new Run(shapes);
      let i = 0;
      const pick = () => picks[i++ % picks.length]! + i;
      const data = { total: "700", note: "7", rows: ROWS };
      run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
      const comeBack = () => {
        const all = sent(run.events);
        const effect = all[pick() % Math.max(all.length, 1)];
        if (!effect) return;
        const before = run.events.length;
        const ended = isEnded(run.state);
        run.send({ type: "not delivered", effect, to: "ada@elsewhere.example", why: "no mailbox" });
        mustHold(run.state, run.events);
        const fresh = deep(run.events.slice(before));
        if (fresh.some((e) => e.type === "not delivered")) came.told++;
        for (const e of fresh) {
          if (e.type !== "list sent out") continue;
          came.sentOut++;
          if (e.round !== null) came.inRounds++;
          // A request that has ended goes on no more.
          expect(ended).toBe(false);
        }
        if (ended) came.late++;
      };
      for (let k = 0; k < 16; k++) {
        if (!isEnded(run.state)) run.random(pick);
        if (k % 2 === 0) comeBack();
        mustHold(run.state, run.events);
      }
      expect(run.finish()).toBe(true);
      mustHold(run.state, run.events);
      comeBack();
      came.moved += deep(run.events).filter((e) => e.type === "errand kept").length;
    }),
    { seed: 20265, numRuns: 70, endOnFailure: true },
  );
  expect(Object.entries(came).filter(([, n]) => n < 5)).toEqual([]);
}, 240_000);
