import { KINDS } from "@/kinds";
import { isOwnRequest, type Party } from "../form";
import { compileRelease, evolve, forgetEvents, newsOf, NEW_REQUEST, replay } from ".";
import { NO_PROCEDURES } from "./facts";
import type { Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const outside = (name: string, email: string, through: string | null = null): Party => ({
  kind: "outside",
  name,
  email,
  through,
});
const ADA = outside("Ada Byrne", "ada@byrne.example");
const UNA: Party = { kind: "person", id: "una" };
const process = (behind: Extract<Party, { kind: "process" }>["behind"]): Party => ({
  kind: "process",
  key: "audit",
  name: "Shelf audit",
  behind,
});
const GUARD: Rule = { by: "duty", duty: "Guard" };
const CARMEL: Rule = { by: "person", person: "carmel" };

function begun(requester: Party, route: Step[], more = {}) {
  const h = harness(definitionOf([...route, fin("end", "approved")], more));
  const done = h.send({ type: "start", actor: null, requester, number: "TEST-0001", data: { total: "5" } });
  expect(done.ok).toBe(true);
  return h;
}
const decided = (requester: Party, rule: Rule, fallback?: Rule) => {
  const step = decideBy("check", rule, YES_NO("1"));
  if (step.kind !== "decide") throw new Error("no decision");
  return begun(requester, [{ ...step, who: { ...step.who, ...(fallback ? { fallback } : {}) } }]);
};

describe("who has no desk here", () => {
  it.each([
    ["somebody outside", ADA],
    ["a process", process(null)],
    ["a process that una led to", process({ kind: "person", id: "una" })],
    ["another program", { kind: "service", id: "service.night" } satisfies Party],
  ])("%s has no manager and is asked nothing: the fallback is", (_, who) => {
    expect(decided(who, { by: "manager" }, GUARD).asked()).toEqual(["declan"]);
    expect(decided(who, { by: "requester" }, GUARD).asked()).toEqual(["declan"]);
    expect(decided(who, { by: "formula", formula: "Requester" }, GUARD).asked()).toEqual(["declan"]);
    expect(decided(who, { by: "manager", of: "Requester" }, GUARD).asked()).toEqual(["declan"]);
    expect(decided(who, { by: "manager" }).state.stuck).toMatchObject([{ reason: { code: "nobody" } }]);
  });

  it("is not taken for somebody of the same id", () => {
    // A process may be called what somebody's account is.
    const odd: Party = { kind: "process", key: "carmel", name: "carmel", behind: null };
    for (const who of [odd, outside("carmel", "carmel", null)]) {
      expect(decided(who, { by: "formula", formula: "Requester" }, GUARD).asked()).toEqual(["declan"]);
      expect(decided(who, CARMEL).asked()).toEqual(["carmel"]);
    }
  });

  it("cannot be asked for changes: an owner names somebody", () => {
    const step = decideBy("check", CARMEL, [
      ...YES_NO("1"),
      ans("back", "plain", [], { returns: true, note: "must" }),
    ]);
    const h = begun(ADA, [step]);
    h.answer("carmel", "back", "no dates");
    expect(h.state.stuck).toMatchObject([{ reason: { code: "nobody" } }]);
    const token = h.state.stuck[0]!.token;
    h.send({ type: "name", actor: "brendan", token, to: "fergus", note: "knows her" });
    expect(h.asked()).toEqual(["fergus"]);
  });
});

describe("whoever follows their request from outside", () => {
  const follower = (follows: "letters" | "page"): Party => ({
    kind: "outside",
    name: "Ada Byrne",
    email: "ada@byrne.example",
    through: "visitor.1",
    follows,
  });
  const sentBack = (who: Party) => {
    const step = decideBy("check", CARMEL, [...YES_NO("1"), ans("back", "plain", [], { returns: true })]);
    const h = begun(who, [step]);
    h.answer("carmel", "back", "no dates");
    return h;
  };
  it("is asked for changes by their own account, and stays asked however often it is looked at", () => {
    const h = sentBack(follower("page"));
    expect(h.asked()).toEqual(["visitor.1"]);
    const before = h.events.length;
    h.send({ type: "ask others" });
    expect(h.events.length).toBe(before);
    h.answer("visitor.1", "sent");
    expect(h.asked()).toEqual(["carmel"]);
  });
  it("is asked nothing else, and nobody else is in their place", () => {
    expect(decided(follower("page"), { by: "requester" }, GUARD).asked()).toEqual(["declan"]);
    const other: Party = { kind: "outside", name: "Ada", email: "a@b.example", through: "service.night" };
    expect(sentBack(other).state.stuck).toMatchObject([{ reason: { code: "nobody" } }]);
  });
  it("hears by a letter what a step tells whoever asked by a notice, where letters reach them", () => {
    const tell = {
      id: "t",
      name: "Tell",
      kind: "tell",
      who: { by: "requester" },
      subject: "It goes on",
      text: "",
      ways: [],
    } as unknown as Step;
    const told = (who: Party) =>
      begun(who, [tell]).events.flatMap((e) =>
        e.type === "effect asked" && e.effect.kind === "tell" ? [e.effect] : [],
      );
    expect(told(follower("letters"))).toMatchObject([
      { people: [], mail: { to: [{ name: "Ada Byrne", email: "ada@byrne.example" }] } },
    ]);
    for (const who of [follower("page"), ADA, process(null)]) expect(told(who)).toEqual([]);
    // What others are told is none of theirs.
    const toCarmel = begun(follower("letters"), [{ ...tell, who: CARMEL } as Step]).events.flatMap((e) =>
      e.type === "effect asked" && e.effect.kind === "tell" ? [e.effect] : [],
    );
    expect(toCarmel).toMatchObject([{ people: ["carmel"] }]);
    expect(toCarmel[0]).not.toHaveProperty("mail");
    // Once a step has told them, that it has ended is no news any more.
    const release = compileRelease(definitionOf([tell, fin("end", "approved")]), {}, KINDS);
    const ended = (who: Party) => {
      const h = begun(who, [tell]);
      return newsOf(release, NEW_REQUEST, h.state, h.events, NO_PROCEDURES).map((n) => n.kind);
    };
    expect(ended(follower("letters"))).toEqual([]);
    expect(ended(follower("page"))).toEqual(["ended"]);
    // Somebody who works here reads it on the screen, as ever.
    expect(told(UNA)).toMatchObject([{ people: ["una"] }]);
    expect(told(UNA)[0]).not.toHaveProperty("mail");
  });
  it("keeps nobody from deciding by an address they only typed, and does by one that is theirs", () => {
    const typed = { ...follower("page"), email: "carmel@quillhaven.example" } as Extract<
      Party,
      { kind: "outside" }
    >;
    expect(decided({ ...typed, unsure: true }, CARMEL, GUARD).asked()).toEqual(["carmel"]);
    expect(decided(typed, CARMEL, GUARD).asked()).toEqual(["declan"]);
    // Whose account asked for it decides it never, whatever is said of the address.
    expect(decided({ ...typed, through: "carmel", unsure: true }, CARMEL, GUARD).asked()).toEqual(["declan"]);
  });
  it("has news of changes and the end, unless a step has told them of it", () => {
    const release = compileRelease(definitionOf([fin("end", "approved")]), {}, KINDS);
    const newsFor = (who: Party, route: Step[] = []) => {
      const h = begun(who, route);
      return newsOf(release, NEW_REQUEST, h.state, h.events, NO_PROCEDURES).map((n) => [n.kind, n.to]);
    };
    expect(newsFor(follower("page"))).toEqual([["ended", "visitor.1"]]);
    const h = sentBack(follower("letters"));
    const news = newsOf(release, NEW_REQUEST, h.state, h.events, NO_PROCEDURES);
    expect(news.map((n) => [n.kind, n.to])).toContainEqual(["sent back", "visitor.1"]);
  });
});

describe("nobody decides their own request", () => {
  const asks = (who: Party) => decided(who, CARMEL, GUARD).asked();
  it.each([
    ["by way of a process", process({ kind: "person", id: "carmel" })],
    ["from outside, by the address the office knows", outside("C.", "Carmel@QuillHaven.example ")],
    ["through their own account for somebody else", outside("Ada", "ada@byrne.example", "carmel")],
    [
      "from outside by way of a process",
      process({ kind: "outside", name: "C", email: "carmel@quillhaven.example", through: null }),
    ],
  ])("%s", (_, who) => {
    expect(asks(who)).toEqual(["declan"]);
    const h = decided(who, GUARD);
    const task = h.open()[0]!.id;
    for (const type of ["hand over", "reassign"] as const)
      expect(h.send({ type, actor: "declan", task, to: "carmel", note: "please" })).toMatchObject({
        ok: false,
        refusal: { code: "own-request", data: { person: "carmel" } },
      });
    const { token } = h.open()[0]!;
    expect(h.send({ type: "skip", actor: "carmel", token, way: "approve", note: "x" })).toMatchObject({
      ok: false,
      refusal: { code: "own-request" },
    });
  });
  it("and nobody is taken for somebody without an address because both have none", () => {
    expect(isOwnRequest(outside("No address", ""), { id: "carmel", email: "" })).toBe(false);
    expect(isOwnRequest(ADA, { id: "carmel", email: "" })).toBe(false);
  });
  it("and everybody else may", () => {
    for (const who of [ADA, outside("No address", ""), process(null), process({ kind: "person", id: "una" })])
      expect(asks(who)).toEqual(["carmel"]);
  });
});

describe("what formulas read of who asked", () => {
  const title = (who: Party, text: string) => begun(who, [], { title: text }).title();
  it("is the name and address of somebody outside, the name of a process, and no department", () => {
    const text = "{Requester.name}/{Requester.email}/{Requester.department}";
    expect(title(ADA, text)).toBe("Ada Byrne/ada@byrne.example/");
    expect(title(process({ kind: "person", id: "una" }), text)).toBe("Shelf audit//");
    expect(title(UNA, text)).toBe("Una/una@quillhaven.example/Registry");
  });
  it("cannot be kept where people are, and stops instead of leaving that empty", () => {
    const set = { id: "w", name: "Work out", kind: "work out", set: [{ field: "who", value: "Requester" }] };
    const fields = [{ id: "who", name: "Who", kind: "person" as const }];
    const kept = (who: Party) => begun(who, [set as Step], { fields }).state;
    expect(kept(UNA).data["who"]).toBe("una");
    for (const who of [ADA, process(null)]) expect(kept(who).stuck).toMatchObject([{ step: "w" }]);
  });
});

it("news goes to who reads notices, and never to the owners instead", () => {
  const release = compileRelease(definitionOf([fin("end", "approved")]), {}, KINDS);
  const told = (who: Party) => {
    const h = begun(who, []);
    return newsOf(release, NEW_REQUEST, h.state, h.events, NO_PROCEDURES);
  };
  expect(told(UNA)).toMatchObject([{ kind: "ended", to: "una" }]);
  expect(told(ADA)).toEqual([]);
  expect(told(process({ kind: "person", id: "una" }))).toEqual([]);
});

it("only whose own it is withdraws it", () => {
  const withdrawn = (who: Party, actor: string) =>
    decided(who, CARMEL).send({ type: "withdraw", actor, note: "" }).ok;
  expect(withdrawn(outside("Ada", "a@b.example", "service.night"), "service.night")).toBe(true);
  expect(withdrawn(process({ kind: "person", id: "una" }), "una")).toBe(false);
  expect(withdrawn(ADA, "")).toBe(false);
  expect(withdrawn(UNA, "una")).toBe(true);
});

it("who asked from outside is forgotten with what is personal, in procedures and behind processes too", () => {
  const gone = { fields: new Set<string>(), inCalls: true, asker: true, notesOf: null };
  const release = compileRelease(definitionOf([fin("end", "approved")]), {}, KINDS);
  for (const who of [
    ADA,
    process({ kind: "outside", name: "Ada Byrne", email: "ada@byrne.example", through: null }),
  ]) {
    const h = begun(who, []);
    const inner = { type: "in call", call: "c1", event: h.events[0]!, seq: 99, at: 0, by: null } as const;
    const left = forgetEvents([...h.events, inner], release, gone);
    expect(JSON.stringify(left)).not.toMatch(/ada/i);
    expect(JSON.stringify(left)).toContain('"kind":"outside"');
    // Forgotten twice, nothing changes any more.
    expect(forgetEvents(left, release, gone)).toEqual(left);
    const state = replay(left.slice(0, -1), NEW_REQUEST);
    expect(state.status).toBe(h.state.status);
    expect(JSON.stringify(state)).not.toMatch(/ada/i);
  }
  const mine = begun(UNA, []).events;
  expect(forgetEvents(mine, release, gone)).toEqual(mine);
  expect(evolve(NEW_REQUEST, mine[0]!).requester).toEqual(UNA);
});
