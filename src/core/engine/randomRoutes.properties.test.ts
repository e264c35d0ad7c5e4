import { personParty } from "../form";
import { KINDS } from "@/kinds";
import fc from "fast-check";
import type { FormData } from "../form";
import { problemsOf } from "../problems";
import { flowOf } from "../route";
import { isEnded, isOpen, levelsOf, type RequestEvent } from ".";
import { OFFICE_HOURS } from "./testOffice";
import { build, shape, type Shape } from "./testRoutes";
import { answerTo, ROWS, Run, someRows } from "./testRun";
import { mustHold } from "./testSound";

/** Whatever a request went through, the checker's view of the route allows; from all it can come to, it can end. */
function wentAsTheRouteLeads({ release, events }: Run) {
  const flow = flowOf(release.definition, release.places, KINDS);
  const entered = events.flatMap((e) =>
    e.type === "token placed" || e.type === "token moved" || e.type === "round opened" ? [e.step] : [],
  );
  for (const step of new Set(entered)) {
    expect([step, flow.reached.has(step), flow.ending.has(step)]).toEqual([step, true, true]);
  }
  const order = [...new Set(entered)];
  order.forEach((a, i) => {
    for (const b of order.slice(i + 1)) expect([a, b, flow.mayPrecede(a, b)]).toEqual([a, b, true]);
  });
}

/**
 * Limits of parts by what people see: a part of which somebody has something has one that runs, once for whoever came into
 * it; one that nobody and nothing is in any more has none, nor anything of its ladder; and no moment of a ladder comes twice.
 */
function partsRun({ release, state, events, procedures }: Run): number {
  let open = 0;
  for (const { state: s, calls } of levelsOf(state)) {
    const at = calls.length === 0 ? release : procedures.byId(calls.at(-1)!.release)!;
    const partsOf = (step: string) => {
      const owners = at.places.get(step)?.owners.map((o) => o.step) ?? [];
      return owners.some((o) => o.kind === "for each") ? [] : owners.filter((o) => o.kind === "part");
    };
    const spans = Object.values(s.spans ?? {});
    open += spans.length;
    const ended = isEnded(s);
    for (const t of Object.values(s.tasks))
      if (isOpen(t) && !ended && t.scope === undefined && !s.tokens[t.token]?.errand)
        for (const p of partsOf(t.step))
          expect([p.id, spans.some((x) => x.step === p.id)]).toEqual([p.id, true]);
    for (const x of spans) {
      const inside = Object.values(s.tokens).some((t) => partsOf(t.step).some((p) => p.id === x.step));
      expect([x.step, inside, ended]).toEqual([x.step, true, false]);
    }
    const known = new Set([...Object.keys(s.visits), ...Object.keys(s.sleeps), ...spans.map((x) => x.id)]);
    expect(Object.values(s.timers).filter((t) => !known.has(t.visit))).toEqual([]);
    expect(new Set(spans.map((x) => `${x.step} ${x.token}`)).size).toBe(spans.length);
  }
  const fired = events.flatMap((e) => (e.type === "rung fired" ? [e.timer] : []));
  expect(fired).toHaveLength(new Set(fired).size);
  return open;
}

it("random routes under random commands stay sound, and end when everybody agrees", () => {
  let commands = 0;
  let [early, stayed, spanned] = [0, 0, 0];
  let [ended, off, nested] = [0, 0, 0];
  fc.assert(
    fc.property(
      fc.array(shape, { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 0, max: 1000 }),
      fc.array(fc.nat(100_000), { minLength: 40, maxLength: 200 }),
      (shapes, total, picks) => {
        const run = new Run(shapes);
        let i = 0;
        const pick = () => picks[i++ % picks.length]! + i;
        run.send({
          type: "start",
          actor: "una",
          requester: personParty("una"),
          number: "RND-0001",
          data: { total: String(total), note: "7", rows: ROWS },
        });
        mustHold(run.state, run.events);
        for (let k = 0; k < 25 && !isEnded(run.state); k++) {
          run.random(pick);
          commands++;
          spanned += partsRun(run);
          if (k % 5 === 0) mustHold(run.state, run.events);
        }
        mustHold(run.state, run.events);
        expect(run.finish()).toBe(true);
        partsRun(run);
        mustHold(run.state, run.events);
        wentAsTheRouteLeads(run);
        stayed += run.stayed;
        early += run.events.filter((e) => e.type === "branch let go").length;
        for (const e of run.events) {
          if (e.type === "call ended") ended++;
          if (e.type === "call called off") off++;
          if (e.type === "in call" && e.event.type === "in call") nested++;
        }
      },
    ),
    { seed: 20261, numRuns: 300, endOnFailure: true },
  );
  expect(commands).toBeGreaterThan(3000);
  expect(spanned).toBeGreaterThan(100);
  expect(early).toBeGreaterThan(7);
  expect([ended > 100, off > 5, nested > 70]).toEqual([true, true, true]);
  expect(stayed).toBeGreaterThan(14);
}, 240_000);

/** A For each whose rounds begin by asking somebody who lets the round go on either way. */
const asking = fc.record({
  s: fc.constant("each" as const),
  over: fc.constantFrom("lines" as const, "lines" as const, "list" as const),
  pace: fc.nat(3),
  until: fc.boolean(),
  more: fc.nat(3),
  body: fc
    .tuple(fc.nat(5), fc.array(shape, { maxLength: 2 }))
    .map(([who, rest]): Shape[] => [
      { s: "decide", who, how: 0, extra: [], refuse: "on", limit: false, returns: false },
      ...rest,
    ]),
});

it("rounds that people answer, while lines come and go, stay sound and end", () => {
  const came: Record<string, number> = {};
  let [partly, wholly] = [0, 0];
  fc.assert(
    fc.property(
      asking,
      fc.array(shape, { maxLength: 2 }),
      fc.array(fc.nat(100_000), { minLength: 40, maxLength: 120 }),
      (each, rest, picks) => {
        const run = new Run([each, ...rest]);
        let i = 0;
        const pick = () => picks[i++ % picks.length]! + i;
        const data = { total: "700", note: "7", rows: ROWS };
        run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
        for (let k = 0; k < 12 && !isEnded(run.state); k++) {
          const open = run.open();
          const task = open[pick() % Math.max(open.length, 1)];
          if (!task || pick() % 6 === 0) run.random(pick);
          else {
            const actor = task.holder ?? task.candidates[0]!.person;
            const answer = answerTo(task, pick() % 3 > 0);
            const rows: FormData = pick() % 4 === 0 ? { rows: someRows(pick(), pick()) } : {};
            run.send({ type: "answer", actor, task: task.id, answer, note: "n", data: rows });
          }
          mustHold(run.state, run.events);
        }
        expect(run.finish()).toBe(true);
        mustHold(run.state, run.events);
        wentAsTheRouteLeads(run);
        partly += run.kept.partly;
        wholly += run.kept.wholly;
        for (const e of run.events) came[e.type] = (came[e.type] ?? 0) + 1;
      },
    ),
    { seed: 20262, numRuns: 300, endOnFailure: true },
  );
  expect([partly, wholly].map((n) => n > 200)).toEqual([true, true]);
  // What the routes are made for has come to pass, and often.
  const seldom = ["round ended", "round left out", "token called off", "run closing"].filter(
    (type) => (came[type] ?? 0) < 10,
  );
  expect(seldom.map((type) => [type, came[type]])).toEqual([]);
}, 240_000);

/** Beside somebody who may write the note, others that wait for it, in rounds and procedures too. */
const awaiting = fc
  .tuple(
    fc.nat(2),
    fc.nat(2),
    fc.nat(5),
    fc.array(shape, { maxLength: 2 }),
    fc.array(shape, { maxLength: 2 }),
    fc.option(fc.array(shape, { maxLength: 2 })),
  )
  .map(([until, where, who, rest, more, late]): Shape[] => {
    const decide: Shape = { s: "decide", who, how: 0, extra: [], refuse: "on", limit: false, returns: false };
    const wait: Shape = { s: "wait", hours: 3, until, late };
    const inside: Shape[] = [wait, ...rest];
    const rounds: Shape = { s: "each", over: "list", pace: 0, until: false, more: 0, body: inside };
    const others = [[[decide, decide, ...more]], [[decide]]].flat();
    const together = (branches: Shape[][]): Shape => ({
      s: "together",
      branches,
      conditional: false,
      needs: 0,
      until: 5,
      runOn: false,
    });
    const waits = [inside, [rounds], [{ s: "hand to" as const, body: [together([inside, [decide]])] }]][
      where
    ]!;
    return [together([waits, ...others])];
  });

it("what is waited for is gone on with once it is so, and nothing waits for what is so", () => {
  let came = 0;
  fc.assert(
    fc.property(awaiting, fc.array(fc.nat(100_000), { minLength: 40, maxLength: 80 }), (shapes, picks) => {
      const run = new Run(shapes);
      let i = 0;
      const pick = () => picks[i++ % picks.length]! + i;
      const data = { total: "700", note: "7", rows: ROWS };
      run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
      for (let k = 0; k < 14 && !isEnded(run.state); k++) {
        run.random(pick);
        if (k % 3 === 0) run.send({ type: "look" });
        mustHold(run.state, run.events);
      }
      expect(run.finish()).toBe(true);
      mustHold(run.state, run.events);
      came += deep(run.events).filter((e) => e.type === "woke" && e.came).length;
    }),
    { seed: 20264, numRuns: 220, endOnFailure: true },
  );
  expect(came).toBeGreaterThan(20);
}, 120_000);

it("the same commands at the same times give the same events", () => {
  fc.assert(
    fc.property(
      fc.array(shape, { minLength: 1, maxLength: 3 }),
      fc.array(fc.nat(100_000), { minLength: 30, maxLength: 60 }),
      (shapes, picks) => {
        const twice = [0, 1].map(() => {
          const run = new Run(shapes);
          let i = 0;
          run.send({
            type: "start",
            actor: "una",
            requester: personParty("una"),
            number: "RND-0001",
            data: { total: "700", note: "7", rows: ROWS },
          });
          for (let k = 0; k < 15; k++) run.random(() => picks[i++ % picks.length]! + i);
          return run.events;
        });
        expect(twice[0]).toEqual(twice[1]);
      },
    ),
    { seed: 5, numRuns: 150 },
  );
}, 120_000);

it("checking any random route for problems never fails", () => {
  fc.assert(
    fc.property(fc.array(shape, { maxLength: 4 }), (shapes) => {
      const problems = problemsOf(build(shapes), {
        kinds: KINDS,
        registers: {},
        office: { people: [], groups: {}, duties: {}, calendars: [OFFICE_HOURS.key], mailboxes: [] },
      });
      expect(problems.every((p) => p.message.length > 10)).toBe(true);
    }),
    { seed: 9, numRuns: 200 },
  );
}, 120_000);

/** The same with what stands in procedures, or under headings, put where those stand. */
const without = (kind: "hand to" | "part", shapes: readonly Shape[]): Shape[] =>
  shapes.flatMap((x): Shape[] => {
    const inner = (list: readonly Shape[]) => without(kind, list);
    switch (x.s) {
      case "hand to":
      case "part":
        return x.s === kind ? inner(x.body) : [{ ...x, body: inner(x.body) }];
      case "decide":
        return [{ ...x, extra: inner(x.extra) }];
      case "mail":
        return [{ ...x, back: inner(x.back) }];
      case "choose":
        return [{ ...x, first: inner(x.first), rest: inner(x.rest) }];
      case "together":
        return [{ ...x, branches: x.branches.map(inner) }];
      case "each":
        return [{ ...x, body: inner(x.body) }];
      case "complete":
      case "rows":
      case "start request":
      case "set":
      case "wait":
      case "tell":
      case "write":
      case "finish":
        return [x];
    }
  });
/** Whether it ends something, goes back, or reads what only the request has: that is otherwise in a procedure. */
const differs = (shapes: readonly Shape[]): boolean =>
  JSON.stringify(shapes).match(/"finish"|"jump"|"each"|"beside":[01]|"until":[12]/) !== null;

it("a procedure asks whom its steps would ask without it, for as long", () => {
  let held = 0;
  fc.assert(
    fc.property(fc.array(shape, { minLength: 1, maxLength: 4 }), fc.nat(1000), (shapes, total) => {
      fc.pre(JSON.stringify(shapes).includes("hand to") && !differs(shapes));
      const came = [shapes, without("hand to", shapes)].map((of) => {
        const run = new Run(of);
        const data = { total: String(total), note: "7", rows: ROWS };
        run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
        const first = run.open().map((t) => [t.candidates, t.due]);
        run.finish();
        const tasks = deep(run.events).flatMap((e) =>
          e.type === "task opened"
            ? [JSON.stringify([e.task.purpose, e.task.candidates, e.task.openedAt])]
            : [],
        );
        return [first.map((t) => JSON.stringify(t)).sort(), tasks.sort(), run.state.result];
      });
      expect(came[0]).toEqual(came[1]);
      held += (came[0]![1] as string[]).length;
    }),
    { seed: 20263, numRuns: 150, endOnFailure: true, maxSkipsPerRun: 400 },
  );
  expect(held).toBeGreaterThan(120);
}, 120_000);

it("a part changes nothing: the same people are asked, in the same order, to the same end", () => {
  let held = 0;
  fc.assert(
    fc.property(fc.array(shape, { minLength: 1, maxLength: 4 }), fc.nat(1000), (shapes, total) => {
      const text = JSON.stringify(shapes);
      // A jump goes to the first of its list, which a heading may be, and a list of its own.
      fc.pre(text.includes('"part"') && !text.includes('"jump"'));
      const came = [shapes, without("part", shapes)].map((of) => {
        const run = new Run(of);
        const data = { total: String(total), note: "7", rows: ROWS };
        run.send({ type: "start", actor: "una", requester: personParty("una"), number: "RND-0001", data });
        run.finish();
        const did = deep(run.events).flatMap((e): unknown[] => {
          if (e.type === "task opened")
            return [[e.task.purpose, e.task.candidates, e.task.openedAt, e.task.due]];
          return e.type === "values set" || e.type === "effect done" ? [[e.type]] : [];
        });
        return [did, run.state.result, run.state.data["note"], run.state.status];
      });
      expect(came[0]).toEqual(came[1]);
      held += (came[0]![0] as unknown[]).length;
    }),
    { seed: 20264, numRuns: 150, endOnFailure: true, maxSkipsPerRun: 400 },
  );
  expect(held).toBeGreaterThan(150);
}, 120_000);

/** All that happened, in procedures too. */
const deep = (events: readonly RequestEvent[]): RequestEvent[] =>
  events.flatMap((e) => (e.type === "in call" ? deep([e.event]) : [e]));
