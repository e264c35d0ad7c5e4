import {
  Turn,
  compileRelease,
  engineFacts,
  NEW_REQUEST,
  whoWouldBeAsked,
  type OfficeData,
} from "../../src/core/engine";
import type { FactsData } from "../../src/core/form";
import type { Assignment, ProcessDefinition } from "../../src/core/route";
import { KINDS } from "../../src/kinds";

const PEOPLE = 10_000;
/** People in one department. */
const ALIKE = 25;

/** What finding people costs in a large office. @returns by condition, its milliseconds the first time and then, and how many it finds */
export function assignment(
  time: (f: () => void) => number,
): { where: string; first: number; then: number[]; found: number }[] {
  const ids = Array.from({ length: PEOPLE }, (_, i) => `p${i}`);
  const office: OfficeData = {
    people: ids.map((id, i) => ({
      id,
      name: id,
      manager: i === 0 ? null : `p${Math.floor((i - 1) / 8)}`,
      calendar: null,
      active: true,
    })),
    groups: [{ key: "watch", name: "watch", members: ids.filter((_, i) => i % 7 === 0) }],
    duties: ids.flatMap((person, i) => (i % 10 === 0 ? [{ duty: "Guard", person, place: null }] : [])),
    absences: [],
    mailboxes: [],
    calendars: [
      {
        key: "office",
        name: "Office",
        zone: "Europe/Dublin",
        week: { "1": [["09:00", "17:00"]] },
        holidays: [],
      },
    ],
  };
  const known: FactsData = {
    people: Object.fromEntries(
      ids.map((id, i) => [
        id,
        {
          id,
          name: id,
          email: `${id}@quillhaven.example`,
          jobTitle: `Officer ${i % 40}`,
          department: `Department ${Math.floor(i / ALIKE)}`,
          site: `Site ${i % 4}`,
        },
      ]),
    ),
    registers: {},
    records: {},
  };
  const facts = engineFacts(office, known, Date.UTC(2026, 2, 3, 10), KINDS.fields);
  return [
    'Department = Requester.department and list contains(Duties, "Guard")',
    'Job title = "Officer 3" and Site = "Site 3" and Name != Requester.name',
    'list contains(Duties, "Guard") and ends with(Name, "77")',
  ].map((where) => {
    const who: Assignment = { rule: { by: "people", where }, how: "one" };
    const definition: ProcessDefinition = {
      format: "cobble-step/process@2",
      key: "bench",
      name: "Bench",
      purpose: "",
      owners: [],
      numbering: { prefix: "B", digits: 4 },
      title: "",
      starts: [],
      access: {},
      samples: [],
      fields: [],
      route: [{ id: "check", name: "check", kind: "decide", who, answers: [] }],
    };
    const release = compileRelease(definition, {}, KINDS);
    const state = { ...NEW_REQUEST, requester: { kind: "person" as const, id: "p77" } };
    let found = 0;
    const ask = () => {
      const asked = whoWouldBeAsked(
        new Turn(release, state, facts, null),
        { step: "check", scope: null },
        who,
      );
      if ("go" in asked) throw new Error("it cannot be told who is asked");
      found = asked.length;
    };
    return { where, first: time(ask), then: Array.from({ length: 40 }, () => time(ask)), found };
  });
}
