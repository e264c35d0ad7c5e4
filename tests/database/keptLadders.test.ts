import {
  createProcess,
  draftView,
  keepLadder,
  keptLadderList,
  logPage,
  releaseDraft,
  removeKeptLadder,
  SYSTEM,
} from "@/services";
import type { ProcessDefinition } from "@/core/route";
import { decide } from "@/steps/decide/kind";
import { openWorld, person, value } from "./world";

/** A ladder kept for all processes, as letters are. */
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
jest.setTimeout(60_000);

const rungs = [{ id: "r", when: "at" as const, action: { do: "remind" as const } }];
const processOf = (key: string, owners: string[], more: Partial<ProcessDefinition>): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: `Process ${key}`,
  purpose: "",
  owners,
  numbering: { prefix: key.toUpperCase(), digits: 3 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [],
  fields: [],
  route: [
    {
      ...decide.blank("look"),
      limit: { otherwise: { amount: 2, unit: "working days" }, rungs: [], ladder: "mine" },
    },
  ],
  ...more,
});

it("is kept by who designs its process, taken by another, and changed for all by them and the office", async () => {
  const [owner, other, office] = [
    await person("maeve.dunlea"),
    await person("lucia.penrose"),
    await person("tobias.marrin"),
  ];
  const mine = { id: "mine", name: "Usual", rungs };
  value(await createProcess(SYSTEM, processOf("laa", ["maeve.dunlea"], { ladders: [mine] })));
  expect(await keepLadder(other, "laa", "mine")).toMatchObject({ ok: false });
  expect(await keepLadder(owner, "laa", "gone")).toMatchObject({ ok: false, failure: { code: "not-found" } });
  const from = value(await keepLadder(owner, "laa", "mine"));
  expect(from.version).toBe(1);
  value(
    await createProcess(
      SYSTEM,
      processOf("lab", ["lucia.penrose", "tobias.marrin"], { ladders: [{ ...mine, from }] }),
    ),
  );
  // What it is of hinders nothing.
  expect((await releaseDraft(SYSTEM, "lab", "1.0.0", "")).ok).toBe(true);
  const kept = value(await keptLadderList(office)).find((k) => k.id === from.ladder);
  expect(kept).toMatchObject({ name: "Usual", version: 1, from: "Process laa", by: "Maeve Dunlea" });
  expect(kept!.taken).toEqual([{ key: "lab", name: "Process lab", version: 1 }]);
  expect(await keptLadderList(other)).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
  const { ladders } = value(await draftView(other, "lab")).office;
  expect(ladders.find((k) => k.id === from.ladder)).toMatchObject({ version: 1, ladder: { rungs } });
  expect(await keepLadder(other, "lab", "mine")).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
  // The office may change it for all, from whatever process.
  expect(value(await keepLadder(office, "lab", "mine"))).toEqual({ ladder: from.ladder, version: 2 });
  expect(await removeKeptLadder(other, from.ladder)).toMatchObject({ ok: false });
  value(await removeKeptLadder(office, from.ladder));
  expect(await removeKeptLadder(office, from.ladder)).toMatchObject({ ok: false });
  expect(value(await draftView(other, "lab")).definition.ladders).toEqual([{ ...mine, from }]);
  const log = JSON.stringify(await logPage(office, { kind: "", person: "", before: "" }));
  expect(log).toContain("kept the ladder “Usual”");
  expect(log).toContain("took the ladder “Usual” away");
});
