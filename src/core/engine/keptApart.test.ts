import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

const REGISTRY: Rule = { by: "group", group: "registry" };
const FIRST: Rule = { by: "answered", step: "first" };
const asking = (id: string, who: Assignment, more: object = {}): Step =>
  ({
    ...decideBy(
      id,
      who.rule,
      [ans("yes", "agree"), ans("no", "refuse", [fin(`end-${id}`, "no", "refuse")])],
      more,
    ),
    who,
  }) as Step;

/** Registry (carmel, declan, fergus) decides twice, the second time by somebody else. */
const twice = (second: Partial<Assignment> = {}, away: Record<string, string> = {}) => {
  const h = harness(
    definitionOf([
      asking("first", { rule: REGISTRY, how: "one" }),
      asking("second", { rule: REGISTRY, how: "one", never: [FIRST], ...second }),
      fin("end", "approved"),
    ]),
    away,
  );
  h.start();
  return h;
};

describe("another pair of eyes", () => {
  it("are never those who have answered the step before", () => {
    const h = twice();
    h.answer("declan", "yes");
    expect(h.asked()).toEqual(["carmel|fergus"]);
  });
  it("nor those by whom it is covered: they would see it again", () => {
    const h = twice({}, { carmel: "declan" });
    h.answer("declan", "yes");
    // Carmel is away, and declan, who covers, has answered.
    expect(h.asked()).toEqual(["fergus"]);
  });
  it("are asked to be somebody else where a task is handed over, by whomever", () => {
    const h = twice();
    h.answer("declan", "yes");
    const task = h.open()[0]!.id;
    const refused = { ok: false, refusal: { code: "kept-apart", data: { person: "declan" } } };
    expect(h.send({ type: "hand over", actor: "carmel", task, to: "declan", note: "" })).toMatchObject(
      refused,
    );
    expect(h.send({ type: "reassign", actor: "una", task, to: "declan", note: "why" })).toMatchObject(
      refused,
    );
    expect(h.send({ type: "hand over", actor: "carmel", task, to: "brendan", note: "" }).ok).toBe(true);
  });
  it("are their manager's where it says so, or the first above who may", () => {
    const only: Rule = { by: "person", person: "fergus" };
    const h = harness(
      definitionOf([
        asking("first", { rule: { by: "group", group: "registry" }, how: "first" }),
        asking("second", { rule: only, how: "one", never: [FIRST], instead: "manager" }),
        fin("end", "approved"),
      ]),
    );
    h.start();
    h.answer("fergus", "yes");
    // Fergus has answered; his manager is carmel.
    expect(h.asked()).toEqual(["carmel"]);
  });
  it("of nobody stop the request, unless somebody else is named for it", () => {
    const only: Rule = { by: "person", person: "declan" };
    const stuck = twice({ rule: only });
    stuck.answer("declan", "yes");
    expect(stuck.state.stuck).toMatchObject([{ reason: { code: "nobody" } }]);
    const refused = stuck.send({
      type: "name",
      actor: "una",
      token: stuck.state.stuck[0]!.token,
      to: "declan",
      note: "there is nobody else",
    });
    expect(refused).toMatchObject({ ok: false, refusal: { code: "kept-apart" } });
    const saved = twice({ rule: only, fallback: { by: "duty", duty: "Director" } });
    saved.answer("declan", "yes");
    expect(saved.asked()).toEqual(["eithne"]);
  });
  it("are not those of an owner who chose in the place of the first", () => {
    const h = twice({ rule: { by: "person", person: "brendan", others: ["eithne"] } });
    const { token } = Object.values(h.state.visits)[0]!;
    expect(h.send({ type: "skip", actor: "brendan", token, way: "yes", note: "late" }).ok).toBe(true);
    expect(h.asked()).toEqual(["eithne"]);
  });
});

describe("who is never asked by a record", () => {
  it("may not answer once the record says so, whatever they were asked before", () => {
    let keeper = "carmel";
    const stores = {
      format: "cobble-step/register@1" as const,
      key: "stores",
      name: "Stores",
      one: "store",
      purpose: "",
      columns: [
        { id: "name", name: "Name", kind: "text" as const },
        { id: "keeper", name: "Keeper", kind: "person" as const },
      ],
      title: ["name"],
    };
    const h = harness(
      definitionOf(
        [
          asking("check", {
            rule: REGISTRY,
            how: "one",
            never: [{ by: "formula", formula: "Store.Keeper" }],
          }),
          fin("end", "approved"),
        ],
        { fields: [{ id: "store", name: "Store", kind: "look-up", register: "stores" }] },
      ),
      {},
      { stores },
      () => ({ registers: { stores }, records: { stores: { "1": { id: "1", name: "Loft", keeper } } } }),
    );
    h.start({ store: "1" });
    expect(h.asked()).toEqual(["declan|fergus"]);
    keeper = "declan";
    const task = h.open()[0]!.id;
    const sent = h.send({ type: "answer", actor: "declan", task, answer: "yes", note: "", data: {} });
    expect(sent).toMatchObject({ ok: false, refusal: { code: "kept-apart" } });
    expect(h.send({ type: "take", actor: "declan", task })).toMatchObject({ ok: false });
    // Whoever answers after that finds it among those who may.
    expect(h.send({ type: "take", actor: "fergus", task }).ok).toBe(true);
    h.send({ type: "answer", actor: "fergus", task, answer: "yes", note: "", data: {} });
    expect(h.state.result).toMatchObject({ name: "approved" });
  });
});

describe("side by side, whoever has answered one", () => {
  const beside = (a: Partial<Assignment> = {}, b: Partial<Assignment> = {}) => {
    const together = {
      id: "both",
      name: "Both",
      kind: "together",
      branches: [
        { id: "left", name: "Left", steps: [asking("first", { rule: REGISTRY, how: "one", ...a })] },
        {
          id: "right",
          name: "Right",
          steps: [asking("second", { rule: REGISTRY, how: "one", never: [FIRST], ...b })],
        },
      ],
    } as unknown as Step;
    const h = harness(definitionOf([together, fin("end", "approved")]));
    h.start();
    return h;
  };
  it("is asked at the other no more, and what they send there is refused", () => {
    const h = beside();
    const second = () => h.open().find((t) => t.step === "second")!;
    h.send({ type: "take", actor: "declan", task: second().id });
    const first = h.open().find((t) => t.step === "first")!;
    h.send({ type: "answer", actor: "declan", task: first.id, answer: "yes", note: "", data: {} });
    expect(second().candidates.map((c) => c.person)).toEqual(["carmel", "fergus"]);
    expect(second().holder).toBeNull();
    expect(h.events.findLast((e) => e.type === "task handed over")).toMatchObject({ gone: "apart" });
    const sent = h.send({
      type: "answer",
      actor: "declan",
      task: second().id,
      answer: "yes",
      note: "",
      data: {},
    });
    expect(sent).toMatchObject({ ok: false, refusal: { code: "not-yours" } });
  });
  it("is asked no more either where an owner chose in the place of those asked", () => {
    const h = beside({}, { rule: { by: "person", person: "brendan", others: ["eithne"] } });
    const { token } = Object.values(h.state.visits).find((v) => v.step === "first")!;
    expect(h.send({ type: "skip", actor: "brendan", token, way: "yes", note: "late" }).ok).toBe(true);
    const second = h.open().find((t) => t.step === "second")!;
    expect(second.candidates.map((c) => c.person)).toEqual(["eithne"]);
  });
  it("leaves it to the others where all of them decide", () => {
    const h = beside({}, { how: "all" });
    const first = h.open().find((t) => t.step === "first")!;
    h.send({ type: "answer", actor: "declan", task: first.id, answer: "yes", note: "", data: {} });
    const open = h.open().filter((t) => t.step === "second");
    expect(open.map((t) => t.holder)).toEqual(["carmel", "fergus"]);
    for (const t of open)
      h.send({ type: "answer", actor: t.holder!, task: t.id, answer: "yes", note: "", data: {} });
    expect(h.state.result).toMatchObject({ name: "approved" });
  });
  it("leaves it with nobody where they alone were asked: it stands stuck, and is not answered by them", () => {
    const h = beside({}, { rule: { by: "person", person: "declan" } });
    const first = h.open().find((t) => t.step === "first")!;
    h.send({ type: "answer", actor: "declan", task: first.id, answer: "yes", note: "", data: {} });
    expect(h.open()).toEqual([]);
    expect(h.state.stuck).toMatchObject([{ step: "second", reason: { code: "nobody" } }]);
  });
});

describe("in rounds", () => {
  const each = (id: string, steps: Step[], more: object = {}): Step =>
    ({
      id,
      name: id,
      kind: "for each",
      over: { times: "2" },
      item: "Item",
      bodies: [{ id: `${id}-body`, steps }],
      ...more,
    }) as unknown as Step;
  const first = asking("first", { rule: REGISTRY, how: "one" });
  const second = asking("second", { rule: REGISTRY, how: "one", never: [FIRST] });
  const started = (route: Step[]) => {
    const h = harness(definitionOf([...route, fin("end", "approved")]));
    h.start();
    return h;
  };
  const answer = (h: ReturnType<typeof started>, step: string, actor: string, nth = 0) => {
    const t = h.open().filter((x) => x.step === step)[nth]!;
    const d = h.send({ type: "answer", actor, task: t.id, answer: "yes", note: "", data: {} });
    expect(d.ok).toBe(true);
  };
  const askedAt = (h: ReturnType<typeof started>, step: string) =>
    h.open().flatMap((t) => (t.step === step ? [t.candidates.map((c) => c.person).join("|")] : []));

  it("those of the same round are kept apart, and not those of the others, also of such as have ended", () => {
    const h = started([each("all", [first, second])]);
    answer(h, "first", "declan");
    answer(h, "first", "carmel");
    expect(askedAt(h, "second")).toEqual(["carmel|fergus", "declan|fergus"]);
    answer(h, "second", "fergus");
    expect(askedAt(h, "second")).toEqual(["declan|fergus"]);
    const one = started([each("all", [first, second], { atOnce: 1 })]);
    answer(one, "first", "declan");
    answer(one, "second", "carmel");
    answer(one, "first", "fergus");
    expect(askedAt(one, "second")).toEqual(["carmel|declan"]);
  });
  it("behind them those of all rounds are", () => {
    const h = started([each("all", [first]), second]);
    answer(h, "first", "declan");
    answer(h, "first", "carmel");
    expect(askedAt(h, "second")).toEqual(["fergus"]);
  });
  it("one level deeper those of rounds within the same one are, also once these have ended", () => {
    const h = started([each("outer", [each("inner", [first]), second], { atOnce: 1 })]);
    answer(h, "first", "declan");
    answer(h, "first", "declan");
    expect(askedAt(h, "second")).toEqual(["carmel|fergus"]);
  });
  it("within them whoever answered before all of them is", () => {
    const h = started([first, each("all", [second])]);
    answer(h, "first", "fergus");
    expect(askedAt(h, "second")).toEqual(["carmel|declan", "carmel|declan"]);
  });
});
