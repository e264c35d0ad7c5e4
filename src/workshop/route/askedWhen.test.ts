import { compileRelease } from "@/core/engine";
import { ans, decideBy, definitionOf, fin, T0 } from "@/core/engine/testRequest";
import { officeFacts } from "@/core/engine/testOffice";
import type { Sample, Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { askedWhen } from "./askedWhen";

const limit = { otherwise: { amount: 1, unit: "working days" }, rungs: [] };
const route: Step[] = [
  decideBy("check", { by: "manager" }, [ans("yes", "agree")], { limit }),
  {
    id: "large",
    name: "Large",
    kind: "choose",
    ways: [
      {
        id: "above",
        name: "above",
        when: "Total > 500",
        steps: [
          {
            ...decideBy("each", { by: "group", group: "registry" }, [ans("yes", "agree")]),
            who: { rule: { by: "group", group: "registry" }, how: "order" },
          } as Step,
        ],
      },
      { id: "rest", name: "rest", steps: [] },
    ],
  } as unknown as Step,
  decideBy("last", { by: "manager", of: "Requester", levels: 3 }, [ans("yes", "agree")]),
  fin("end", "approved"),
];
const sample = (id: string, requester: string, total: string): Sample => ({
  id,
  name: id,
  requester,
  data: { total },
});

it("of each sample it is told whom every step asks and until when, where it does not come, and where it is stuck", () => {
  const release = compileRelease(definitionOf(route), {}, KINDS);
  const samples = [
    sample("small", "fergus", "5"),
    sample("large", "fergus", "900"),
    sample("stuck", "una", "5"),
  ];
  const { rows, stops } = askedWhen(release, samples, { ...officeFacts(T0), waivesRecords: true });
  const day = T0 + 86_400_000;
  expect(rows.map((r) => [r.number, r.name])).toEqual([
    ["2", "check"],
    ["3a.1", "each"],
    ["4", "last"],
  ]);
  expect(rows[0]!.by).toEqual([
    { people: ["carmel"], due: day },
    { people: ["carmel"], due: day },
    { people: ["brendan"], due: day },
  ]);
  // One after another, all of them; who asked is none of them.
  expect(rows[1]!.by).toEqual([null, { people: ["carmel", "declan"], due: null }, null]);
  expect(rows[2]!.by.slice(0, 2)).toEqual([
    { people: ["eithne"], due: null },
    { people: ["eithne"], due: null },
  ]);
  expect(rows[2]!.by[2]).toMatchObject({ stuck: { code: "nobody" } });
  expect(stops).toEqual([null, null, null]);
});
