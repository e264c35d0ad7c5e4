import fc from "fast-check";
import {
  answerProposal,
  draftView,
  editDraft,
  logPage,
  nameOwner,
  noticesOf,
  ownersView,
  proposalsForMe,
  proposeOwners,
  workshopList,
} from "@/services";
import { mayAgree } from "@/services/workshop/owners";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const owners = async () =>
  (
    await sql<{ person_id: string }>(
      "select person_id from process_owner where process_key = 'supplies' order by 1",
    )
  ).map((r) => r.person_id);
const OFFICE = "orla.fennimore";
beforeAll(() => sql("update person set office_rights = true where id = $1", [OFFICE]));

it("no draft edit changes who owns a process, neither by property nor as a whole", async () => {
  const tobias = await person("tobias.marrin");
  const draft = value(await draftView(tobias, "supplies"));
  const owned = draft.definition.owners;
  value(
    await editDraft(tobias, "supplies", draft.version, [
      { op: "process.replace", definition: { ...draft.definition, owners: ["dov.merrick"] } },
    ]),
  );
  expect(await owners()).toEqual(["tobias.marrin"]);
  expect(value(await draftView(tobias, "supplies")).definition.owners).toEqual(owned);
});

it("who stays an owner changes them at once; the draft, both logs and those concerned are told", async () => {
  const tobias = await person("tobias.marrin");
  const { version } = value(await draftView(tobias, "supplies"));
  expect(value(await proposeOwners(tobias, "supplies", ["tobias.marrin", "sorcha.lind"], "Help"))).toEqual({
    done: true,
  });
  expect(await owners()).toEqual(["sorcha.lind", "tobias.marrin"]);
  const draft = value(await draftView(await person("sorcha.lind"), "supplies"));
  expect(draft.definition.owners).toEqual(["tobias.marrin", "sorcha.lind"]);
  expect(draft.version).toBe(version + 1);
  expect((await noticesOf(await person("sorcha.lind")))[0]!.text).toContain("You own");
  const view = value(await ownersView(tobias, "supplies"));
  expect(view.log[0]!.sentence).toContain("Owners changed from Tobias Marrin");
  const log = await logPage(tobias, { kind: "owners changed", person: "", before: "" });
  expect(log!.lines[0]!.sentence).toContain("Sorcha Lind");
});

it("the office may propose, and has no owner's word; nor has one who is to go", async () => {
  const office = await person(OFFICE);
  expect(await proposeOwners(office, "supplies", [OFFICE], "")).toMatchObject({
    failure: { code: "invalid" },
  });
  expect(value(await proposeOwners(office, "supplies", [OFFICE, "sorcha.lind"], ""))).toEqual({
    done: false,
  });
  expect(await owners()).toEqual(["sorcha.lind", "tobias.marrin"]);
  const proposed = [OFFICE, "sorcha.lind"];
  for (const who of [OFFICE, "tobias.marrin", "dov.merrick"])
    expect((await answerProposal(await person(who), "supplies", proposed, true)).ok).toBe(false);
  expect(await owners()).toEqual(["sorcha.lind", "tobias.marrin"]);
  // What is agreed to is what stood on the page.
  const sorcha = await person("sorcha.lind");
  expect(await answerProposal(sorcha, "supplies", ["sorcha.lind"], true)).toMatchObject({ ok: false });
  value(await answerProposal(sorcha, "supplies", proposed, true));
  expect(await owners()).toEqual(["sorcha.lind", OFFICE].sort());
  expect((await noticesOf(await person("tobias.marrin")))[0]!.text).toContain("no longer own");
  // It is answered once.
  expect(await answerProposal(sorcha, "supplies", proposed, true)).toMatchObject({ ok: false });
  value(await proposeOwners(sorcha, "supplies", ["tobias.marrin", "sorcha.lind"], ""));
});

it("an owner hands a process over as a whole, and whoever is to have it says yes or no", async () => {
  await sql("update person set office_rights = false where id = $1", ["dov.merrick"]);
  const sorcha = await person("sorcha.lind");
  value(await proposeOwners(sorcha, "supplies", ["sorcha.lind"], ""));
  expect(value(await proposeOwners(sorcha, "supplies", ["dov.merrick"], "Leaving"))).toEqual({ done: false });
  const dov = await person("dov.merrick");
  expect(await owners()).toEqual(["sorcha.lind"]);
  // He may not open the Workshop yet, and sees it all the same; nobody else is asked.
  expect(await proposalsForMe(dov)).toMatchObject([
    { process: "supplies", by: "Sorcha Lind", note: "Leaving" },
  ]);
  for (const other of ["sorcha.lind", OFFICE, "piet.hanlon"])
    expect(await proposalsForMe(await person(other))).toEqual([]);
  value(await answerProposal(dov, "supplies", ["dov.merrick"], false));
  expect(await answerProposal(dov, "supplies", ["dov.merrick"], true)).toMatchObject({ ok: false });
  value(await proposeOwners(sorcha, "supplies", ["dov.merrick"], "Leaving"));
  value(await answerProposal(dov, "supplies", ["dov.merrick"], true));
  expect(await owners()).toEqual(["dov.merrick"]);
  expect((await workshopList(sorcha)).some((p) => p.key === "supplies")).toBe(false);
});

it("the office names an owner only where none is here any more", async () => {
  const office = await person(OFFICE);
  expect(await nameOwner(office, "supplies", "sorcha.lind")).toMatchObject({
    failure: { code: "not-allowed" },
  });
  await sql("update person set active = false where id = 'dov.merrick'");
  expect(await nameOwner(await person("piet.hanlon"), "supplies", "piet.hanlon")).toMatchObject({
    ok: false,
  });
  expect(await nameOwner(office, "supplies", "dov.merrick")).toMatchObject({ failure: { code: "invalid" } });
  value(await nameOwner(office, "supplies", "sorcha.lind"));
  expect(await owners()).toEqual(["sorcha.lind"]);
  expect(value(await ownersView(office, "supplies")).log[0]!.sentence).toContain(
    "Named Sorcha Lind as owner",
  );
  await sql("update person set active = true where id = 'dov.merrick'");
});

it("two changes at once leave one of them, whole", async () => {
  const sorcha = await person("sorcha.lind");
  await Promise.all([
    proposeOwners(sorcha, "supplies", ["sorcha.lind", "dov.merrick"], ""),
    proposeOwners(sorcha, "supplies", ["sorcha.lind", "piet.hanlon"], ""),
  ]);
  const now = await owners();
  expect([
    ["dov.merrick", "sorcha.lind"],
    ["piet.hanlon", "sorcha.lind"],
  ]).toContainEqual(now);
  expect(value(await draftView(sorcha, "supplies")).definition.owners.toSorted()).toEqual(now);
});

it("no change comes about without the word of an owner who is here (every small case)", () => {
  const all = ["a", "b", "c", "d"];
  const some = fc.subarray(all, { minLength: 1 });
  fc.assert(
    fc.property(some, some, fc.constantFrom(...all), fc.subarray(all), (now, proposed, by, here) => {
      const may = mayAgree(now, proposed, by, (p) => here.includes(p));
      for (const who of may) {
        expect(here).toContain(who);
        expect(proposed).toContain(who);
        // Either they own it now, or an owner of now has proposed it.
        expect(now.includes(who) || (now.includes(by) && here.includes(by))).toBe(true);
      }
      if (now.some((o) => proposed.includes(o) && here.includes(o)))
        expect(may.every((who) => now.includes(who))).toBe(true);
    }),
  );
});
