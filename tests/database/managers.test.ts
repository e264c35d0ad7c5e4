import { createProcess, managers, releaseDraft, SYSTEM } from "@/services";
import type { ProcessDefinition } from "@/core/route";
import { decide } from "@/steps/decide/kind";
import { openWorld, person, sql, value } from "./world";

/** Who manages whom, and what would find nobody. */
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
jest.setTimeout(60_000);

it("processes of the demo find everybody, and one whose group has emptied since is told with the step", async () => {
  const office = await person("tobias.marrin");
  const before = value(await managers(office));
  expect(before.stops).toEqual([]);
  expect(before.circles).toEqual([]);
  expect(before.tops[0]!.below).toBeGreaterThan(20);
  await sql("insert into person_group (key, name) values ('rota', 'Rota')");
  await sql("insert into group_member (group_key, person_id) values ('rota', 'greta.halloran')");
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "rota",
    name: "Rota",
    purpose: "",
    owners: ["maeve.dunlea"],
    numbering: { prefix: "ROTA", digits: 3 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [],
    route: [
      {
        ...decide.blank("look"),
        name: "Rota looks",
        who: { rule: { by: "group", group: "rota" }, how: "one" },
      },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "rota", "1.0.0", ""));
  expect(value(await managers(office)).stops).toEqual([]);
  await sql("delete from group_member where group_key = 'rota'");
  const [stop, ...others] = value(await managers(office)).stops;
  expect(others).toEqual([]);
  expect(stop).toMatchObject({ key: "rota", name: "Rota", at: [{ where: "2 Rota looks" }] });
  expect(stop!.at[0]!.message).toMatch(/rota/i);
});

it("is the office's to see", async () => {
  expect(await managers(await person("lucia.penrose"))).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
});
