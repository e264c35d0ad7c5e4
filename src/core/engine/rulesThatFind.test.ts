import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const person = (id: string, ...others: string[]): Rule =>
  others.length > 0 ? { by: "person", person: id, others } : { by: "person", person: id };
const FINDER = { fields: [{ id: "finder", name: "Finder", kind: "person" as const }] };

/** Who is asked by a rule; una asks: her manager is brendan, his eithne, who has none; fergus's is carmel, hers brendan. */
const found = (rule: Rule, who: Partial<Assignment> = {}, finder?: string, away = {}) => {
  const step = { ...decideBy("check", rule, YES_NO("1")), who: { rule, how: "one", ...who } } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")], FINDER), away);
  h.start(finder === undefined ? {} : { finder });
  return h.state.status === "stuck" ? "stuck" : h.asked().join();
};

describe("people by name", () => {
  it("are as many as are named; whoever has left, or is nobody, is left out", () => {
    expect(found(person("carmel", "declan"))).toBe("carmel|declan");
    expect(found(person("carmel", "nobody", "carmel"))).toBe("carmel");
  });
});

describe("managers up to somebody", () => {
  it("are the first with the job title, however that is written, and nobody where there is none", () => {
    // All of them are officers but for their head.
    expect(found({ by: "manager", until: { title: " officer " } })).toBe("brendan");
    expect(found({ by: "manager", until: { title: "Director" } })).toBe("stuck");
    expect(found({ by: "manager", until: { title: "" } })).toBe("stuck");
  });
  it("are the first so near to the top, whatever lies between", () => {
    const of = (level: number, finder: string) =>
      found({ by: "manager", of: "Finder", until: { level } }, {}, finder);
    expect(of(1, "fergus")).toBe("eithne");
    expect(of(2, "fergus")).toBe("brendan");
    expect(of(3, "fergus")).toBe("carmel");
    expect(of(9, "fergus")).toBe("carmel");
    expect(of(1, "eithne")).toBe("stuck");
  });
  it("are all on the way where that is said, as far as there are any", () => {
    const line = (more: object) => found({ by: "manager", of: "Finder", line: true, ...more }, {}, "fergus");
    expect(line({ levels: 2 })).toBe("carmel|brendan");
    expect(line({ levels: 9 })).toBe("carmel|brendan|eithne");
    expect(line({ until: { level: 2 } })).toBe("carmel|brendan");
    expect(line({ until: { title: "Keeper" } })).toBe("stuck");
  });
});

describe("the head of a department", () => {
  it("is that of the requester, of somebody, or of one by its name", () => {
    expect(found({ by: "head" })).toBe("brendan");
    expect(found({ by: "head", of: "Finder" }, {}, "fergus")).toBe("declan");
    expect(found({ by: "head", of: '"Security"' })).toBe("declan");
    expect(found({ by: "head", of: "Finder.department" }, {}, "fergus")).toBe("declan");
  });
  it("is nobody of nobody, not the head of all", () => {
    expect(found({ by: "head", of: "Finder" })).toBe("stuck");
    expect(found({ by: "head", of: '""' })).toBe("stuck");
  });
});

describe("everybody for whom a condition holds", () => {
  const where = (text: string, finder?: string) => found({ by: "people", where: text }, {}, finder);
  it("is found by what is known of them, with the names of the form behind", () => {
    expect(where('Department = "Security"')).toBe("declan|fergus");
    expect(where("Department = Finder.department and Email != Finder.email", "fergus")).toBe("declan");
    expect(where('list contains(Duties, "Guard")')).toBe("declan");
    expect(where('"Security" = Department and starts with(Name, "F")')).toBe("fergus");
  });
  it("is nobody where it holds for nobody, is empty, or reads what is empty", () => {
    expect(where('Department = "Finance"')).toBe("stuck");
    expect(where("  ")).toBe("stuck");
    expect(where("Department = Finder.department")).toBe("stuck");
  });
  it("is not known where it cannot be worked out for one of them, whoever else it would find", () => {
    const h = harness(
      definitionOf([
        decideBy("check", { by: "people", where: 'Department = "Security" or 1 / 0 > 1' }, YES_NO("1")),
        fin("end", "approved"),
      ]),
    );
    h.start();
    expect(h.state.stuck).toMatchObject([{ reason: { code: "unclear" } }]);
  });
});

describe("whoever answered another step", () => {
  it("is asked again, and nobody where nobody has", () => {
    const again: Rule = { by: "answered", step: "first" };
    const route = [
      decideBy("first", { by: "group", group: "registry" }, [ans("yes", "agree")]),
      decideBy("then", again, [ans("yes", "agree")]),
      fin("end", "approved"),
    ];
    const h = harness(definitionOf(route));
    h.start();
    h.answer("fergus", "yes");
    expect(h.asked()).toEqual(["fergus"]);
    expect(found(again)).toBe("stuck");
  });
  it("is all of them who did, in that order, and not whoever was only asked", () => {
    const route = [
      {
        ...decideBy("first", { by: "group", group: "registry" }, [ans("yes", "agree")]),
        who: { rule: { by: "group", group: "registry" }, how: "share", share: 60 },
      } as Step,
      decideBy("then", { by: "answered", step: "first" }, [ans("yes", "agree")]),
      fin("end", "approved"),
    ];
    const h = harness(definitionOf(route));
    h.start();
    h.answer("fergus", "yes");
    h.at(Date.UTC(2026, 2, 3, 11));
    h.answer("carmel", "yes");
    expect(h.open().map((t) => t.candidates.map((c) => c.person).join("|"))).toEqual(["fergus|carmel"]);
  });
});

describe("several rules", () => {
  const NOBODY: Rule = { by: "group", group: "none" };
  const REGISTRY: Rule = { by: "group", group: "registry" };
  const several = (take: "first" | "all", ...of: Rule[]): Rule => ({ by: "several", take, of }) as Rule;
  it("are the first of them that finds somebody", () => {
    expect(found(several("first", NOBODY, person("carmel"), person("declan")))).toBe("carmel");
    expect(found(several("first", NOBODY, NOBODY))).toBe("stuck");
    expect(found(several("first"))).toBe("stuck");
  });
  it("of whom somebody may be asked: the requester is not, nor whoever is kept apart, nor whoever they cover for", () => {
    expect(found(several("first", { by: "requester" }, person("carmel")))).toBe("carmel");
    expect(
      found(several("first", { by: "manager" }, person("carmel")), {}, undefined, { brendan: "una" }),
    ).toBe("carmel");
    const never: Rule[] = [REGISTRY];
    expect(found(several("first", REGISTRY, person("eithne")), { never })).toBe("eithne");
    expect(found(several("first", { by: "requester" }, person("carmel")), { requesterToo: true })).toBe(
      "una",
    );
  });
  it("of whom nobody may be asked leave their manager to be, where that is said", () => {
    const rule = several("first", { by: "requester" }, NOBODY);
    expect(found(rule)).toBe("stuck");
    expect(found(rule, { instead: "manager" })).toBe("brendan");
  });
  it("or all whom they find, each once, in their order", () => {
    expect(found(several("all", person("declan"), NOBODY, REGISTRY))).toBe("declan|carmel|fergus");
  });
  it("read the formulas of each where it stands", () => {
    const rule = several("all", { by: "head", of: "Finder" }, { by: "people", where: 'Name = "Carmel"' });
    expect(found(rule, {}, "fergus")).toBe("declan|carmel");
  });
});

describe("too many people at once", () => {
  it("are not asked: the request stops, and says how many there were", () => {
    const rule: Rule = { by: "group", group: "crowd" };
    const h = harness(definitionOf([decideBy("check", rule, YES_NO("1")), fin("end", "approved")]));
    h.start();
    expect(h.state.stuck).toMatchObject([
      { reason: { code: "too-many-asked", data: { step: "check", found: 2001, most: 2000 } } },
    ]);
  });
});
