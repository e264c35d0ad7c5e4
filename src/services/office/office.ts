import { randomBytes } from "node:crypto";
import { apiKeys, at, getPool, inTransaction, jobs, people, settings, type ApiKeyRow, type Db } from "@/db";
import { workingCalendar } from "@/contracts";
import type { WorkingCalendar } from "@/core/calendar";
import { actorOf, type Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { digest } from "./digest";

export interface OfficePage {
  people: {
    id: string;
    name: string;
    jobTitle: string;
    department: string;
    site: string;
    manager: string | null;
    active: boolean;
    away: { until: number; cover: string | null } | null;
    /** One line a duty: "Key holder for 11 places". */
    duties: string[];
  }[];
  /** How many fit, on all pages. */
  total: number;
  groups: { key: string; name: string; members: { id: string; name: string }[] }[];
  calendars: WorkingCalendar[];
  keeps: boolean;
}

/** People on one page. */
export const PEOPLE_PAGE = 60;

/** Duties in one line each, however many places somebody holds one for. */
function folded(duties: readonly { duty: string; place: string | null }[]): string[] {
  const places = new Map<string, string[]>();
  for (const { duty, place } of duties)
    places.set(duty, [...(places.get(duty) ?? []), ...(place ? [place] : [])]);
  return [...places].map(([duty, at]) =>
    at.length > 2 ? `${duty} for ${at.length} places` : [duty, ...at].join(", "),
  );
}

const calendarsAsEntered = async (db: Db): Promise<WorkingCalendar[]> =>
  (await people.allCalendars(db)).map((c) => workingCalendar.parse(c));

/**
 * People, groups and calendars. Those who have left are shown to whoever keeps people.
 * @param search a part of a name, job, department, site or duty
 */
export const officePage = defineView(
  ["see office", "keep people"],
  async (c, search: string = "", page: number = 1): Promise<OfficePage> => {
    if (!c.may({ action: "see office" }))
      return { people: [], total: 0, groups: [], calendars: [], keeps: false };
    const keeps = c.may({ action: "keep people" });
    const db = getPool();
    const d = await loadDirectory(db);
    const now = await nowMs(db);
    const sought = search.trim().toLowerCase();
    const duties = new Map<string, { duty: string; place: string | null }[]>();
    for (const h of d.duties) duties.set(h.person, [...(duties.get(h.person) ?? []), h]);
    const away = new Map(
      d.absences.filter((x) => x.starts <= now && x.ends > now).map((x) => [x.person_id, x]),
    );
    const all = [...d.people.values()]
      .filter((p) => p.active || keeps)
      .map((p) => ({ p, duties: folded(duties.get(p.id) ?? []) }))
      .filter(
        (x) =>
          sought === "" ||
          [x.p.name, x.p.job_title, x.p.department, x.p.site, ...x.duties].some((t) =>
            t.toLowerCase().includes(sought),
          ),
      )
      .sort((a, b) => Number(b.p.active) - Number(a.p.active));
    const people = all.slice((page - 1) * PEOPLE_PAGE, page * PEOPLE_PAGE).map(({ p, duties: has }) => {
      const a = away.get(p.id);
      return {
        id: p.id,
        name: p.name,
        jobTitle: p.job_title,
        department: p.department,
        site: p.site,
        active: p.active,
        manager: p.manager_id ? personName(d, p.manager_id) : null,
        away: a && p.active ? { until: a.ends, cover: a.cover_id ? personName(d, a.cover_id) : null } : null,
        duties: has,
      };
    });
    return {
      people,
      total: all.length,
      groups: [...d.groups.values()].map((g) => ({
        key: g.key,
        name: g.name,
        members: g.members.map((id) => ({ id, name: personName(d, id) })),
      })),
      // As they were entered: what public holidays add to them is told beside.
      calendars: await calendarsAsEntered(db),
      keeps,
    };
  },
);

export interface KeyRow extends ApiKeyRow {
  person_name: string;
}
/** Own keys; with office rights all. */
export const listKeys = defineView(["keep keys"], async (c): Promise<KeyRow[]> => {
  if (!c.may({ action: "keep keys", person: c.actor.id })) return [];
  const db = getPool();
  const d = await loadDirectory(db);
  return (await apiKeys.listKeys(db))
    .filter((k) => c.may({ action: "keep keys", person: k.person_id }))
    .map((k) => ({ ...k, person_name: personName(d, k.person_id) }));
});

/** Accounts of other programs; only for those who keep them. */
export const listServices = defineView(["manage services"], async (c): Promise<people.ServiceRow[]> => {
  return c.may({ action: "manage services" }) ? [...(await loadDirectory(getPool())).services.values()] : [];
});

const MAX_SERVICE_NAME = 80;

/** Opens an account for a program. It may ask and read like anybody, and is never asked to answer. */
export const addService = defineUseCase(
  ["manage services"],
  async (c, name: string, purpose: string): Promise<{ id: string }> => {
    if (!c.may({ action: "manage services" }))
      throw new Failed({ code: "not-allowed", data: { action: "add a service" } });
    const called = name.trim().replace(/\s+/g, " ");
    const slug = called
      .toLowerCase()
      .normalize("NFKD")
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 40);
    if (slug === "" || called.length > MAX_SERVICE_NAME)
      throw new Failed({
        code: "invalid",
        data: {
          path: "Name of the service",
          message: `Give a name of 1 to ${MAX_SERVICE_NAME} characters with a letter or figure in it, for example: Stock list.`,
        },
      });
    const id = `service.${slug}`;
    if (
      !(await people.insertService(getPool(), {
        id,
        name: called,
        purpose: purpose.trim().slice(0, 200),
        active: true,
      }))
    )
      throw new Failed({
        code: "invalid",
        data: {
          path: "Name of the service",
          message: `There is a service called "${called}" already. Make another key for it, or choose another name.`,
        },
      });
    await noteEntry(c.actor, { what: "service added", data: { person: id } });
    return { id };
  },
);

/** Closing a service makes all its keys stop working at once; opening it again makes those not taken back work. */
export const setService = defineUseCase(
  ["manage services"],
  async (c, id: string, active: boolean): Promise<null> => {
    if (!c.may({ action: "manage services" }))
      throw new Failed({ code: "not-allowed", data: { action: "close or open a service" } });
    if (!(await people.setServiceActive(getPool(), id, active)))
      throw new Failed({ code: "not-found", data: { what: "service", id } });
    await noteEntry(c.actor, { what: active ? "service opened" : "service closed", data: { person: id } });
    return null;
  },
);

/**
 * Makes a bearer key acting as the caller, or as a service; the key itself is shown once and only its digest kept.
 * Nobody makes one for another person, whatever their rights.
 */
export const makeKey = defineUseCase(
  ["make key"],
  async (c, person: string, label: string): Promise<{ key: string }> => {
    const db = getPool();
    const whom = await actorOf(db, person);
    if (!c.may({ action: "make key", person, service: whom?.kind !== "person" }))
      throw new Failed({ code: "not-allowed", data: { action: "make a key for somebody else" } });
    if (!whom) throw new Failed({ code: "not-found", data: { what: "person or open service", id: person } });
    if (!label.trim())
      throw new Failed({
        code: "invalid",
        data: {
          path: "What it is for",
          message: "Say what the key is for, for example: nightly stock list.",
        },
      });
    mustHaveProved(c.actor);
    const key = `cst_${randomBytes(24).toString("base64url")}`;
    const called = label.trim().slice(0, 200);
    const now = at(await nowMs(db))!;
    const id = await apiKeys.insertKey(db, digest(key), person, called, c.actor.id, now);
    await noteEntry(c.actor, { what: "key made", data: { key: id, label: called, person } });
    return { key };
  },
);
export const revokeKey = defineUseCase(["keep keys"], async (c, id: string): Promise<null> => {
  const db = getPool();
  const mine = (await apiKeys.listKeys(db)).find((k) => k.id === id);
  if (!mine || !c.may({ action: "keep keys", person: mine.person_id }))
    throw new Failed({ code: "not-found", data: { what: "key", id } });
  if (await apiKeys.revokeKey(db, id, at(await nowMs(db))!))
    await noteEntry(c.actor, {
      what: "key taken back",
      data: { key: id, label: mine.label, person: mine.person_id },
    });
  return null;
});
export async function actorOfKey(key: string): Promise<Actor | null> {
  if (!/^cst_[\w-]{32}$/.test(key)) return null;
  const db = getPool();
  const found = await apiKeys.personOfKey(db, digest(key));
  return found && actorOf(db, found.person, { kind: "key", id: found.id }, found.directoryVersion);
}

const MAX_MOVE = 366 * 86_400_000;

/** Demo only: moves the clock on, so that a ladder can be watched. Back only by starting the demo fresh. */
export const moveClock = defineUseCase(
  ["move clock"],
  (c, byMs: number, demo: boolean): Promise<{ now: number }> =>
    inTransaction(async (db) => {
      if (!c.may({ action: "move clock", demo }))
        throw new Failed({ code: "not-allowed", data: { action: "move the clock; that is for the demo" } });
      // Backwards would put answers before their questions on the trail.
      if (!(byMs > 0) || byMs > MAX_MOVE)
        throw new Failed({
          code: "invalid",
          data: { path: "Move by", message: "The clock moves forward, by up to a year at a time." },
        });
      const offset = Number((await settings.readSetting(db, "clock_offset")) ?? 0) + Math.round(byMs);
      await settings.writeSetting(db, "clock_offset", offset);
      await jobs.lookWhoIsThere(db);
      return { now: Date.now() + offset };
    }),
);
