import type { RegisterShape } from "@/core/form";
import { at, getPool, registers } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed, outcome } from "../kernel/failure";
import { registerFor, registersSeen, rightsOf } from "../kernel/registersSeen";
import { noRegister } from "./recordForm";
import { whereOf } from "./whereOf";

/** Views somebody keeps of one register. */
const MOST_VIEWS = 50;
const MOST_NAME = 60;
const MOST_VIEW = 6000;

export interface KeptView {
  id: string;
  name: string;
  /** The parameters of the list's address. */
  view: string;
  /** For everybody who sees the register. */
  shared: boolean;
  /** Whether they may take it away. */
  mine: boolean;
}

const keeps = (d: Directory, c: Call, register: string): boolean =>
  rightsOf(d, register).keepers.includes(c.actor.id);

/**
 * Whether a view asks only for what its reader sees: of one kept by somebody who sees more, not even what it asks is
 * told.
 */
async function fits(c: Call, d: Directory, shape: RegisterShape, view: string): Promise<boolean> {
  const q = new URLSearchParams(view);
  const listed = ["sort", "cols", "group"].flatMap((k) => (q.get(k) ?? "").split(",").filter(Boolean));
  const asked = [...q.keys()].flatMap((k) => (k.startsWith("is.") ? [k.slice(3)] : []));
  const sees = (id: string) => shape.columns.some((x) => x.id === id.replace(/^-/, ""));
  if (![...listed, ...asked].every(sees)) return false;
  const where = q.get("where") ?? "";
  if (where.trim() === "") return true;
  const made = await outcome(() => whereOf(getPool(), registersSeen(d, c.actor), shape, where, c.actor.zone));
  return made.ok;
}

/** The views of a register that are kept under a name: one's own, and those for everybody who sees it. */
export const keptViews = defineView(["read register"], async (c, register: string): Promise<KeptView[]> => {
  const db = getPool();
  const d = await loadDirectory(db);
  const shape = registerFor(d, c.actor, register);
  if (!c.may({ action: "read register", seen: shape !== undefined }) || !shape) return [];
  const keeper = keeps(d, c, register);
  const all = await registers.viewsOf(db, register, c.actor.id);
  const whole = shape === d.registers[register];
  const fit = await Promise.all(
    all.map(async (v) => whole || v.person_id !== null || (await fits(c, d, shape, v.view))),
  );
  return all
    .filter((_, i) => fit[i])
    .map((v) => ({
      id: v.id,
      name: v.name,
      view: v.view,
      shared: v.person_id === null,
      mine: v.person_id !== null || keeper,
    }));
});

/** Keeps a view under a name; one of the same name becomes this. @param shared for everybody: whoever looks after it */
export const keepView = defineUseCase(
  ["read register", "keep register"],
  async (c, register: string, name: string, view: string, shared: boolean): Promise<null> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const seen = registerFor(d, c.actor, register) !== undefined;
    c.must({ action: "read register", seen }, noRegister(register));
    if (shared)
      c.must(
        { action: "keep register", keeper: keeps(d, c, register) },
        { code: "not-allowed", data: { action: "keep a view for everybody" } },
      );
    const said = name.trim();
    if (said === "" || said.length > MOST_NAME)
      throw wrong(`Give the view a name of up to ${MOST_NAME} characters, for example: Due this month.`);
    if (view.length > MOST_VIEW) throw wrong("This view is too long to be kept; shorten its condition.");
    const there = await registers.viewsOf(db, register, c.actor.id);
    if (there.length >= MOST_VIEWS && !there.some((v) => v.name.toLowerCase() === said.toLowerCase()))
      throw wrong(`Up to ${MOST_VIEWS} views are kept of a register. Take one away first.`);
    await registers.keepView(db, {
      register_key: register,
      person_id: shared ? null : c.actor.id,
      name: said,
      view,
      at: at(await nowMs(db))!,
    });
    return null;
  },
);
const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "name", message } });

/** Takes one's own view away, or one for everybody where one looks after the register. */
export const removeView = defineUseCase(
  ["use own", "keep register"],
  async (c, id: string): Promise<null> => {
    const db = getPool();
    const v = /^\d{1,18}$/.test(id) ? await registers.viewById(db, id) : null;
    const missing = { code: "not-found", data: { what: "view", id } } as const;
    const d = await loadDirectory(db);
    if (v?.person_id === null)
      c.must({ action: "keep register", keeper: keeps(d, c, v.register_key) }, missing);
    else c.must({ action: "use own", person: v?.person_id ?? "" }, missing);
    if (!v) throw new Failed(missing);
    await registers.removeView(db, id);
    return null;
  },
);
