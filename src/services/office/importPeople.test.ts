import fc from "fast-check";
import type { PersonRow } from "@/db";
import { planImport, type ImportPlan } from "./importPeople";
import { goesInCircles, idFor, isLastWithRights, managersAfter, type Staff } from "./personRules";

const row = (id: string, more: Partial<PersonRow> = {}): PersonRow => ({
  id,
  name: id.toUpperCase(),
  email: `${id}@quillhaven.example`,
  job_title: "",
  department: "",
  site: "",
  manager_id: null,
  calendar_key: null,
  zone: "Europe/Dublin",
  office_rights: false,
  active: true,
  shows: "",
  ...more,
});
const staffOf = (...rows: PersonRow[]): Staff => new Map(rows.map((r) => [r.id, r]));
const CALENDARS = new Map([["office", { name: "Museum office" }]]);
const plan = (
  csv: string,
  staff: Staff = staffOf(row("ana"), row("ben", { manager_id: "ana" })),
): ImportPlan => {
  const p = planImport(csv, staff, CALENDARS, "Europe/Dublin");
  if ("mistake" in p) throw new Error(p.mistake);
  return p;
};

it("tells who is added, changed, already so, and refused, by the line of the sheet", () => {
  const p = plan(
    [
      "\ufeffName;E-mail;Job;Manager;Shoe size",
      "ANA;Ana@Quillhaven.example;;",
      "BEN;ben@quillhaven.example;Porter;ANA;44",
      "Una Quirke;una@quillhaven.example;Porter;ben@quillhaven.example",
      "Nobody;not an address;;",
      "Una Again;una@quillhaven.example;;",
      "Ota;ota@quillhaven.example;;Zed",
    ].join("\r\n"),
  );
  expect(p.same).toBe(1);
  expect(p.changed).toEqual([
    expect.objectContaining({ line: 3, id: "ben", what: [{ field: "Job", before: "", after: "Porter" }] }),
  ]);
  expect(p.added).toEqual([expect.objectContaining({ line: 4, id: "una.quirke" })]);
  expect(p.added[0]!.to).toMatchObject({
    manager: "ben",
    zone: "Europe/Dublin",
    email: "una@quillhaven.example",
  });
  expect(p.refused.map((r) => r.line)).toEqual([5, 6, 7]);
  expect(p.ignored).toEqual(["Shoe size"]);
});

it("what a sheet does not say stays; what it leaves empty is emptied", () => {
  const staff = staffOf(row("ana", { job_title: "Director", department: "Registry", manager_id: null }));
  const p = plan("Name,E-mail,Department\nANA,ana@quillhaven.example,\n", staff);
  expect(p.changed[0]!.what).toEqual([{ field: "Department", before: "Registry", after: "" }]);
  expect(p.changed[0]!.to.jobTitle).toBe("Director");
});

it("two may change places as managers, and a manager may stand further down", () => {
  const p = plan(
    "Name,E-mail,Manager\nANA,ana@quillhaven.example,NEW\nBEN,ben@quillhaven.example,\nNEW,new@quillhaven.example,BEN\n",
  );
  expect(p.refused).toEqual([]);
  expect(p.changed.map((c) => [c.id, c.to.manager])).toEqual([
    ["ana", "new"],
    ["ben", null],
  ]);
});

it("a circle of managers is refused, and so is who would stand under somebody refused", () => {
  const p = plan(
    "Name,E-mail,Manager\nX,x@quillhaven.example,Y\nY,y@quillhaven.example,X\nZ,z@quillhaven.example,X\n",
  );
  expect(p.added).toEqual([]);
  expect(p.refused.map((r) => r.name)).toEqual(["X", "Y", "Z"]);
});

it.each([
  ["", "Name"],
  ["Name,Job\nA,B", "E-mail"],
  ["Name,E-mail,Name\nA,a@b.example,B", "Two columns"],
])("a sheet %j is refused whole, naming %s", (csv, named) => {
  const p = planImport(csv, staffOf(), CALENDARS, "UTC");
  expect("mistake" in p && p.mistake).toContain(named);
});

it("whatever stands in a sheet, what it comes to is people with one address each and no circles", () => {
  const name = fc.constantFrom("ANA", "BEN", "Cy", "Di", "");
  const address = fc.constantFrom("ana", "ben", "cy", "di", "eve").map((n) => `${n}@quillhaven.example`);
  fc.assert(
    fc.property(fc.array(fc.tuple(name, address, fc.oneof(name, address)), { maxLength: 8 }), (rows) => {
      const staff = staffOf(row("ana"), row("ben", { manager_id: "ana" }), row("eve", { active: false }));
      const p = plan(["Name,E-mail,Manager", ...rows.map((r) => r.join(","))].join("\n"), staff);
      expect(p.added.length + p.changed.length + p.same + p.refused.length).toBe(rows.length);
      // Carried out, line by line, onto the staff there is.
      const after = new Map(staff);
      for (const x of [...p.added, ...p.changed])
        after.set(x.id, {
          ...(after.get(x.id) ?? row(x.id)),
          email: x.to.email,
          name: x.to.name,
          manager_id: x.to.manager,
        });
      expect(new Set([...after.values()].map((r) => r.email)).size).toBe(after.size);
      for (const r of after.values()) {
        expect(r.manager_id === null || after.has(r.manager_id)).toBe(true);
        expect(goesInCircles(after, r.id, r.manager_id)).toBe(false);
        if (r.manager_id !== null) expect(after.get(r.manager_id)!.active).toBe(true);
      }
      expect(after.get("eve")).toEqual(staff.get("eve"));
    }),
    { seed: 11, numRuns: 600 },
  );
});

it("ids are made of names, told apart, and are never a program's", () => {
  const taken = new Set(["una.quirke"]);
  expect(idFor("Úna  Quirke", (id) => taken.has(id))).toBe("una.quirke.2");
  expect(idFor("李", () => false)).toBe("person");
  expect(idFor("Service List", () => false)).not.toMatch(/^service\./);
  fc.assert(
    fc.property(fc.string({ unit: "grapheme" }), (name) => {
      expect(idFor(name, () => false)).toMatch(/^[a-z0-9][a-z0-9.-]{0,59}$/);
    }),
  );
});

it("whoever leaves, their people have a manager, nobody manages themselves, and all others stay where they are", () => {
  const ids = ["a", "b", "c", "d", "e", "f"];
  // Each stands below one of those before, or below nobody: every tree there is.
  const trees = fc.tuple(...ids.map((_, i) => fc.integer({ min: -1, max: i - 1 })));
  fc.assert(
    fc.property(trees, fc.constantFrom(...ids), fc.constantFrom(...ids, null), (above, leaver, to) => {
      fc.pre(to !== leaver);
      const staff = new Map(
        ids.map((id, i) => [id, row(id, { manager_id: above[i]! < 0 ? null : ids[above[i]!]! })]),
      );
      const changed = managersAfter(staff, leaver, to);
      const after = new Map(
        [...staff].map(([id, p]) => [id, changed.has(id) ? { ...p, manager_id: changed.get(id)! } : p]),
      );
      for (const p of after.values()) {
        expect(p.manager_id).not.toBe(leaver);
        expect(goesInCircles(after, p.id, p.manager_id)).toBe(false);
        const before = staff.get(p.id)!.manager_id;
        if (before === leaver && p.id !== to) expect(p.manager_id).toBe(to ?? staff.get(leaver)!.manager_id);
        if (before !== leaver && p.id !== to) expect(p.manager_id).toBe(before);
      }
    }),
    { numRuns: 2000 },
  );
});

it("somebody always keeps the office", () => {
  const two = staffOf(row("a", { office_rights: true }), row("b", { office_rights: true, active: false }));
  expect(isLastWithRights(two, "a")).toBe(true);
  expect(isLastWithRights(two, "b")).toBe(false);
});
