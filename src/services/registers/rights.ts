import { mayBeOpened, staying, type Audience, type RegisterRights, type RegisterShape } from "@/core/form";
import { getPool, inTransaction, processes, registers } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, personName, registerOf, type Directory } from "../kernel/directory";
import { Failed, type Failure } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { rightsOf } from "../kernel/registersSeen";
import { noteEntry } from "../log/noteEntry";

const noRegister = (key: string): Failure => ({ code: "not-found", data: { what: "register", id: key } });

/** A process that is live and reads a register. */
export interface RegisterReader {
  key: string;
  name: string;
  version: string;
  releasedBy: string | null;
  /** Names of the columns it reads; null of a release from before that was kept. */
  columns: string[] | null;
  withdrawn: boolean;
}

export interface RightsPage {
  /** With all its columns: who looks after it sees them all. */
  shape: RegisterShape;
  rights: RegisterRights;
  /** Names of the people the rights name, and of whoever looks. */
  people: Record<string, string>;
  groups: { key: string; name: string }[];
  departments: string[];
  duties: string[];
  readers: RegisterReader[];
}

/** Who may see what of a register, and which processes read it. */
export const rightsPage = defineUseCase(["keep register"], async (c, key: string): Promise<RightsPage> => {
  const db = getPool();
  const d = await loadDirectory(db);
  const shape = registerOf(d, key);
  const rights = rightsOf(d, key);
  c.must({ action: "keep register", keeper: rights.keepers.includes(c.actor.id) }, noRegister(key));
  if (!shape) throw new Failed(noRegister(key));
  const named = [
    ...rights.keepers,
    ...audiencesOf(rights).flatMap((a) => (a.by === "person" ? [a.person] : [])),
  ];
  const reading = await processes.releasesReading(db, key);
  return {
    shape: staying(shape),
    rights,
    people: Object.fromEntries([...named, c.actor.id].map((id) => [id, personName(d, id)])),
    groups: [...d.groups.values()].map((g) => ({ key: g.key, name: g.name })),
    departments: [...new Set([...d.people.values()].map((p) => p.department))].filter(Boolean).sort(),
    duties: [...new Set(d.duties.map((h) => h.duty))].sort(),
    readers: reading.map((r) => ({
      key: r.process_key,
      name: r.name,
      version: r.version,
      releasedBy: r.released_by ? personName(d, r.released_by) : null,
      columns: r.columns && shape.columns.filter((x) => r.columns!.includes(x.id)).map((x) => x.name),
      withdrawn: rights.withdrawn.includes(r.process_key),
    })),
  };
});

/** Whether somebody may say who sees a register. */
export const maySayRights = defineView(["keep register"], async (c, key: string): Promise<boolean> => {
  const d = await loadDirectory(getPool());
  const keeper = rightsOf(d, key).keepers.includes(c.actor.id);
  return c.may({ action: "keep register", keeper }) && registerOf(d, key) !== undefined;
});

/**
 * Says who may see what of a register.
 * @param before the rights as whoever changes them saw them; what others changed meanwhile is not written over
 */
export const setRegisterRights = defineUseCase(
  ["keep register"],
  (c, key: string, before: RegisterRights, rights: RegisterRights): Promise<null> =>
    inTransaction(async (db) => {
      const d = await loadDirectory(db);
      const shape = registerOf(d, key);
      const keeper = rightsOf(d, key).keepers.includes(c.actor.id);
      c.must({ action: "keep register", keeper }, noRegister(key));
      if (!shape) throw new Failed(noRegister(key));
      mustHaveProved(c.actor);
      const now = await registers.holdRights(db, key);
      if (!now || canonical(now) !== canonical(before))
        throw wrong(
          "",
          "Somebody has changed who may see this meanwhile. Nothing was kept: load the page again and look at theirs first.",
        );
      mistake(d, shape, rights, now);
      await registers.setRights(db, key, rights);
      await noteEntry(c.actor, { what: "register rights changed", data: { register: key } }, db);
      return null;
    }),
);

const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/** The same whatever order its properties stand in. */
const canonical = (r: RegisterRights): string =>
  JSON.stringify([
    r.keepers,
    ...[r.see, r.add, r.change, r.remove].map((of) => of.map(audienceText)),
    ...[r.columns, r.fill].map((by) =>
      Object.entries(by)
        .map(([id, of]) => [id, of.map(audienceText)] as const)
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    ),
    [...r.withdrawn].sort(),
    [...(r.open ?? [])].sort(),
  ]);
const audienceText = (a: Audience): string => JSON.stringify(Object.entries(a).sort());

const audiencesOf = (r: RegisterRights): Audience[] => [
  ...[r.see, r.add, r.change, r.remove].flat(),
  ...[r.columns, r.fill].flatMap((by) => Object.values(by).flat()),
];

/** What cannot be said. Whoever has left since may go on standing there. */
function mistake(d: Directory, shape: RegisterShape, rights: RegisterRights, before: RegisterRights): void {
  const known = new Set(audiencesOf(before).map(audienceText));
  const isHere = (id: string) => d.people.get(id)?.active || d.services.get(id)?.active;
  for (const id of rights.keepers)
    if (!d.people.get(id)?.active && !before.keepers.includes(id))
      throw wrong("Looked after by", `${personName(d, id)} is not here.`);
  for (const id of rights.open ?? []) {
    const column = shape.columns.find((x) => x.id === id);
    if (column && !mayBeOpened(column, KINDS.fields) && !before.open?.includes(id))
      throw wrong("People outside", `“${column.name}” cannot be opened to them.`);
  }
  for (const id of [...Object.keys(rights.columns), ...Object.keys(rights.fill), ...(rights.open ?? [])])
    if (!shape.columns.some((c) => c.id === id))
      throw wrong("Columns", `${shape.name} has no column "${id}".`);
  for (const a of audiencesOf(rights)) {
    if (known.has(audienceText(a))) continue;
    if (a.by === "person" && !isHere(a.person))
      throw wrong("Seen by", a.person ? `${personName(d, a.person)} is not here.` : "Say which person.");
    if (a.by === "group" && !d.groups.has(a.group))
      throw wrong("Seen by", a.group ? `There is no group "${a.group}".` : "Say which group.");
    if (a.by === "department" && ![...d.people.values()].some((p) => p.department === a.department))
      throw wrong("Seen by", a.department ? `Nobody is in "${a.department}".` : "Say which department.");
    if (a.by === "duty" && !d.duties.some((h) => h.duty === a.duty))
      throw wrong("Seen by", a.duty ? `Nobody holds the duty "${a.duty}".` : "Say which duty.");
  }
}

/** Registers whose rights name a group or a department, by what they are called. */
export const registersNaming = (d: Directory, is: (a: Audience) => boolean): RegisterShape[] =>
  Object.values(d.registers).filter((r) => audiencesOf(rightsOf(d, r.key)).some(is));

/** The same rights with a department called otherwise. */
export const withDepartment = (r: RegisterRights, from: string, to: string): RegisterRights => {
  const called = (of: readonly Audience[]) =>
    of.map((a) => (a.by === "department" && a.department === from ? { ...a, department: to } : a));
  const each = (by: RegisterRights["columns"]) =>
    Object.fromEntries(Object.entries(by).map(([id, of]) => [id, called(of)]));
  const [see, add, change, remove] = [called(r.see), called(r.add), called(r.change), called(r.remove)];
  return { ...r, see, add, change, remove, columns: each(r.columns), fill: each(r.fill) };
};
