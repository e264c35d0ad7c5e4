import { readFileSync } from "node:fs";
import { join } from "node:path";
import { definitionOf, fin } from "@/core/engine/testRequest";
import type { PaperFact } from "@/core/paper";
import type { ProcessDefinition, Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { processPaper } from "./processPaper";

const paperOf = (definition: ProcessDefinition) =>
  processPaper(
    {
      definition,
      version: "draft",
      foot: "foot",
      language: "en",
      person: (id) => `Person ${id}`,
      register: (key) => `Register ${key}`,
    },
    KINDS,
  );
/** By the heading of each step what stands below it. */
function stepsOf(definition: ProcessDefinition) {
  const out: Record<string, { facts: Record<string, string>; ways: readonly string[]; note: string }> = {};
  let at = "";
  for (const b of paperOf(definition).blocks) {
    if (b.is === "heading" && b.level === 3) out[(at = b.text)] = { facts: {}, ways: [], note: "" };
    const here = out[at];
    if (b.is === "facts" && here)
      here.facts = Object.fromEntries(b.facts.map((f: PaperFact) => [f.name, f.value]));
    if (b.is === "list" && here) here.ways = b.items;
    if (b.is === "text" && here) here.note = b.text;
  }
  return out;
}
const decide = (more: object = {}): Step =>
  ({
    id: "m",
    name: "Manager",
    kind: "decide",
    who: { rule: { by: "manager" }, how: "one", fallback: { by: "person", person: "una" } },
    limit: {
      rules: [{ when: "Total > 500", length: { amount: 1, unit: "working days" } }],
      otherwise: { amount: 2, unit: "working days" },
      rungs: [
        { id: "r", when: "before", length: { amount: 2, unit: "hours" }, action: { do: "remind" } },
        { id: "s", when: "at", every: { amount: 1, unit: "days" }, times: 3, action: { do: "remind" } },
      ],
    },
    answers: [
      { id: "yes", label: "approve", tone: "agree", steps: [] },
      { id: "no", label: "decline", tone: "refuse", steps: [fin("n", "declined")] },
    ],
    ...more,
  }) as Step;

it("says of each step who is asked, for how long, by which formulas, and where each answer leads", () => {
  const d = definitionOf([decide({ note: "Look at the purpose." }), fin("e", "done")]);
  expect(stepsOf(d)).toEqual({
    "1  Start": { facts: {}, ways: [expect.any(String)], note: "" },
    "2  Decide · Manager": {
      note: "Look at the purpose.",
      ways: [],
      facts: {
        "Who is asked, one of them": expect.stringContaining("manager") as string,
        "When nobody is found": expect.stringContaining("Person una") as string,
        "How long it may take": "1 working day where Total > 500; else 2 working days",
        "2 hours before the limit": expect.any(String) as string,
        "At the limit, every 1 day, 3 times": expect.any(String) as string,
        "Where “approve”": "then it ends as “done”",
        "Where “decline”": "then it ends as “declined”",
      },
    },
    "2b.1  Finish · Finish": { facts: { "Ends as": "declined" }, ways: [], note: "" },
    "3  Finish · Finish": { facts: { "Ends as": "done" }, ways: [], note: "" },
  });
});

it("says limits by formulas, and the rungs of a ladder kept by name at each step that goes by it", () => {
  const limit = {
    from: { by: "start" },
    rules: [
      { when: "true", length: { by: "day", formula: "Needed by", most: { amount: 3, unit: "days" } } },
      { when: "Total > 1", length: { by: "count", formula: "Total", unit: "hours" } },
    ],
    otherwise: { amount: 2, unit: "working days" },
    rungs: [],
    ladder: "k",
  };
  const d = {
    ...definitionOf([decide({ limit }), fin("e", "done")]),
    ladders: [
      {
        id: "k",
        name: "Usual",
        rungs: [{ id: "r", when: "at" as const, if: "Total > 9", action: { do: "remind" as const } }],
      },
    ],
  };
  expect(stepsOf(d)["2  Decide · Manager"]!.facts).toMatchObject({
    "How long it may take":
      "until Needed by, at most 3 days where true; else Total hours where Total > 1; else 2 working days",
    "The limit counts": "from the start of the request",
    Ladder: "Usual",
    "At the limit, where Total > 9": "remind",
  });
});

it("sets fields in by what they stand in, and says what each goes by", () => {
  const base = definitionOf([fin("e", "done")]);
  const d = {
    ...base,
    fields: [
      ...base.fields,
      {
        id: "things",
        name: "Things",
        kind: "lines" as const,
        fields: [
          {
            id: "what",
            name: "What",
            kind: "text" as const,
            shown: "Total > 1",
            checks: [{ must: 'What != ""', say: "Say what." }],
          },
        ],
      },
    ],
  };
  const table = paperOf(d).blocks.find((b) => b.is === "table")!;
  expect(table.rows).toEqual([
    ["Total", "money", "always", "", ""],
    ["Reason", "text", "", "", ""],
    ["Secret", "text", "", "", ""],
    ["Things", "lines", "", "", ""],
    ["– What", "text", "", "Total > 1", 'What != "": Say what.'],
  ]);
});

it.each(["object-loan", "store-key", "shelf-audit", "check-labels", "new-borrower", "supplies"])(
  "tells every formula and text of the route of %s, once each",
  (key) => {
    const d = JSON.parse(
      readFileSync(join(process.cwd(), "demo/processes", `${key}.json`), "utf8"),
    ) as ProcessDefinition;
    const said = JSON.stringify(paperOf(d).blocks);
    const texts: string[] = [];
    JSON.stringify(d.route, (name, v: unknown) => {
      if (
        typeof v === "string" &&
        ["when", "where", "must", "formula", "of", "what", "called"].includes(name)
      )
        texts.push(v);
      return v;
    });
    const missing = texts.filter(
      (t) => t && !/^(before|at|after)$/.test(t) && !said.includes(JSON.stringify(t).slice(1, -1)),
    );
    expect(missing).toEqual([]);
    expect(texts.length).toBeGreaterThan(0);
  },
);
