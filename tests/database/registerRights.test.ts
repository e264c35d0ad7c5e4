import type { Audience, RegisterRights, RegisterShape } from "@/core/form";
import { EVERYBODY } from "@/core/form";
import {
  askPage,
  createProcess,
  draftView,
  find,
  lookUp,
  makeKey,
  recordPage,
  registerList,
  registerPage,
  releaseDraft,
  requestView,
  sampleValues,
  saveAskDraft,
  startRequest,
  stepPreview,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { Random } from "../../demo/random";
import { openWorld, person, sql, value } from "./world";

import {
  ASKER,
  COUNT,
  DECIDER,
  DEFINITION,
  INNER,
  PAGE,
  PEOPLE,
  ROOMS,
  VAULT,
  fill,
  rights,
  word,
} from "./registerWords";

jest.setTimeout(120_000);
/**
 * What of a register one may not see does not exist: random rights, a word of its own in every cell, and everything
 * anybody can ask for looked through for the words hidden from them.
 */

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
  await fill();
  await rights("rights_vault", EVERYBODY);
  await rights("rights_rooms", EVERYBODY);
});
afterAll(() => world.close());

/** Said anew, with nothing of ours: whether somebody is meant. */
async function isMeant(a: Audience, who: string): Promise<boolean> {
  const asked = {
    everybody: "select true as yes",
    department: "select department = $2 as yes from person where id = $1",
    group: "select exists (select from group_member where person_id = $1 and group_key = $2) as yes",
    duty: "select exists (select from register.role_holders where person = $1 and duty = $2) as yes",
    person: "select $1 = $2 as yes",
  }[a.by];
  const of = { everybody: "", ...a } as Record<string, string>;
  const values = a.by === "everybody" ? [] : [who, of[a.by]];
  return (await sql<{ yes: boolean }>(asked, values))[0]!.yes;
}
async function sees(r: RegisterRights, column: string, who: string): Promise<boolean> {
  if (r.keepers.includes(who)) return true;
  const any = async (of: readonly Audience[]) => {
    for (const a of of) if (await isMeant(a, who)) return true;
    return false;
  };
  return (await any(r.see)) && (r.columns[column] === undefined || (await any(r.columns[column])));
}

interface Words {
  hidden: string[];
  seen: string[];
}
async function wordsFor(who: string, all: Record<string, RegisterRights>): Promise<Words> {
  const out: Words = { hidden: [], seen: [] };
  for (const s of [ROOMS, VAULT])
    for (const c of s.columns.filter((x) => x.kind === "text")) {
      const list = (await sees(all[s.key]!, c.id, who)) ? out.seen : out.hidden;
      for (let n = 1; n <= COUNT; n++) list.push(word(s.key.replace("rights_", ""), c.id, n));
    }
  return out;
}

const some = <T>(r: Random, of: readonly T[]): T[] => of.filter(() => r.chance(0.4));

async function randomRights(r: Random, s: RegisterShape): Promise<RegisterRights> {
  const [group] = await sql<{ key: string }>("select group_key as key from group_member limit 1");
  const pool: Audience[] = [
    { by: "department", department: "Learning" },
    { by: "department", department: "Registry" },
    { by: "duty", duty: "Budget holder" },
    { by: "person", person: r.pick(PEOPLE) },
    { by: "person", person: r.pick(PEOPLE) },
    { by: "group", group: group!.key },
  ];
  const audiences = () => some(r, pool);
  return {
    keepers: r.chance(0.3) ? [r.pick(PEOPLE)] : [],
    see: r.chance(0.6) ? [{ by: "everybody" }] : audiences(),
    columns: Object.fromEntries(some(r, s.columns).map((c) => [c.id, audiences()])),
    withdrawn: [],
    add: [],
    change: [],
    remove: [],
    fill: {},
  };
}

/** Everything of registers that somebody can ask for, as it reaches them. */
async function told(actor: Actor, key: string, number: string, task: string | null): Promise<unknown[]> {
  const out: unknown[] = [
    await registerList(actor),
    await lookUp(actor, VAULT.key, ""),
    await find(actor, "word"),
    await requestView(actor, number),
    await draftView(actor, key),
    await sampleValues(actor, key, "s1"),
    await stepPreview(actor, key, "f", "s1"),
    await askPage(actor, key, DRAFTS[actor.id]!),
  ];
  if (task) out.push(await taskView(actor, number, task));
  for (const s of [ROOMS, VAULT]) {
    out.push(await registerPage(actor, s.key, PAGE));
    for (const c of s.columns)
      out.push(await registerPage(actor, s.key, { ...PAGE, sort: [{ column: c.id, descending: true }] }));
    for (let n = 1; n <= COUNT; n++) out.push(await recordPage(actor, s.key, String(n)));
  }
  for (const path of [
    "/registers",
    `/registers/${VAULT.key}/records`,
    `/registers/${VAULT.key}/records/2`,
    `/requests/${number}`,
  ]) {
    const r = await handleApi({
      method: "GET",
      parts: path.split("/").filter(Boolean),
      search: new URLSearchParams(),
      authorization: `Bearer ${KEYS.get(actor.id)}`,
      idempotencyKey: undefined,
      ifMatch: undefined,
      address: "",
      told: null,
      body: (async function* () {})(),
    });
    out.push(r.body.toString());
  }
  return out;
}
const KEYS = new Map<string, string>();
const DRAFTS: Record<string, string> = Object.fromEntries(
  PEOPLE.map((p, i) => [p, `00000000-0000-0000-0000-00000000010${i}`]),
);

it("tells nobody, anywhere, what of a register is hidden from them", async () => {
  const r = new Random(7);
  value(await createProcess(SYSTEM, INNER));
  value(await releaseDraft(SYSTEM, "rights-inner", "1.0.0", ""));
  value(await createProcess(SYSTEM, DEFINITION));
  value(await releaseDraft(SYSTEM, "rights", "1.0.0", ""));
  const asker = await person(ASKER);
  const n = value(await startRequest(asker, "rights", { item: "2" }));
  const [row] = await sql<{
    number: string;
    status: string;
    state: { tasks: Record<string, { status: string }>; stuck: unknown };
  }>("select number, status, state from request where id = $1", [n.id]);
  expect(row!.state.stuck).toEqual([]);
  const task = Object.keys(row!.state.tasks)[0]!;
  for (const p of PEOPLE) KEYS.set(p, value(await makeKey(await person(p), p, "rights")).key);
  for (const p of PEOPLE) value(await saveAskDraft(await person(p), "rights", DRAFTS[p]!, { item: "3" }));
  let [hiddenOnes, shownOnes] = [0, 0];
  for (let round = 0; round < 12; round++) {
    const all = {
      [ROOMS.key]: await randomRights(r, ROOMS),
      [VAULT.key]: await randomRights(r, VAULT),
    };
    for (const [key, of] of Object.entries(all)) await rights(key, of);
    for (const p of PEOPLE) {
      const actor = await person(p);
      const { hidden, seen } = await wordsFor(p, all);
      const answers = await told(actor, "rights", row!.number, p === DECIDER ? task : null);
      answers.forEach((answer, i) => {
        const text = JSON.stringify(answer);
        const leaked = hidden.filter((w) => text.includes(w));
        if (leaked.length > 0)
          throw new Error(
            `${p} is told ${leaked.join(", ")} in answer ${i} under ${JSON.stringify(all)}: ${text.slice(0, 4000)}`,
          );
      });
      const text = JSON.stringify(answers);
      const vaultSeen = await sees(all[VAULT.key]!, "none", p);
      const roomsSeen = await sees(all[ROOMS.key]!, "none", p);
      for (const w of seen)
        if (w.startsWith("vault") ? vaultSeen : roomsSeen) expect([w, text.includes(w)]).toEqual([w, true]);
      hiddenOnes += hidden.length;
      shownOnes += seen.length;
      // What changed in what they do not see has not happened.
      const record = await recordPage(actor, VAULT.key, "2");
      const changes = await Promise.all(["secret", "mark"].map((c) => sees(all[VAULT.key]!, c, p)));
      const [secret, mark] = changes.map(Number) as [number, number];
      if (record.ok) expect(record.value.history).toHaveLength(secret + mark + (secret || mark));
      // A formula over it is none of theirs, nor is a search by it.
      const form = value(await askPage(actor, "rights", DRAFTS[p]!)).form.form;
      const reads =
        secret === 1 && (await sees(all[VAULT.key]!, "room", p)) && (await sees(all[ROOMS.key]!, "code", p));
      expect([p, form.programs["long"]?.worked !== undefined]).toEqual([p, reads]);
      const tried = await sampleValues(actor, "rights", "s1");
      if (tried.ok && tried.value) expect(tried.value.values.some((v) => v.step === "f")).toBe(reads);
      // What was asked of it would tell what it is, beside what was found.
      const seenRequest = await requestView(actor, row!.number);
      const asked = seenRequest.ok ? seenRequest.value.trail.flatMap((l) => l.why.map((w) => w.text)) : [];
      if (!secret) expect(asked.filter((t) => t.includes("Secret"))).toEqual([]);
      else if (reads && p === ASKER) expect(asked).toContain("Secret = Item.Secret");
      // Nor does asking about it tell.
      for (const w of hidden) {
        const page = await registerPage(actor, w.startsWith("vault") ? VAULT.key : ROOMS.key, {
          ...PAGE,
          search: w,
        });
        expect([w, page.ok ? page.value.total : 0]).toEqual([w, 0]);
      }
      // Some of them only: it looks through all registers there are, which is what takes the time here.
      for (const w of hidden.filter(() => r.chance(0.2)))
        expect(JSON.stringify(await find(actor, w))).not.toContain(w);
      for (const c of VAULT.columns)
        if (!(await sees(all[VAULT.key]!, c.id, p))) {
          const filtered = await registerPage(actor, VAULT.key, {
            ...PAGE,
            filters: [{ column: c.id, value: "" }],
          });
          if (filtered.ok) expect(filtered.value.total).toBe(COUNT);
          const asked = await registerPage(actor, VAULT.key, PAGE, `${c.name} != null`);
          expect(asked.ok).toBe(false);
        }
      if (!(await sees(all[ROOMS.key]!, "code", p))) {
        const asked = await registerPage(actor, VAULT.key, PAGE, 'Room.Door code != "x"');
        expect(asked.ok).toBe(false);
      }
    }
  }
  expect(hiddenOnes).toBeGreaterThan(200);
  expect(shownOnes).toBeGreaterThan(200);
});
