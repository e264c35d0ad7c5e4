import type { PersonInput } from "@/contracts";
import { getPool, ROLE_HOLDERS } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { colleaguesOf, loadDirectory, personName, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { awayTimes, type Away } from "./absences";
import { openWorkOf, type OpenWork } from "./closePerson";
import { dutiesOf, type Duty } from "./duties";
import { inputOf } from "./keepPeople";

export interface PersonPage {
  id: string;
  active: boolean;
  said: PersonInput;
  managerName: string | null;
  calendarName: string | null;
  duties: Duty[];
  groups: { key: string; name: string }[];
  away: Away[];
  /** For those who keep people. */
  keep:
    | (Choices & {
        rights: boolean;
        work: OpenWork;
        dutyNames: string[];
        dutySites: string[];
      })
    | null;
  maySetAway: boolean;
  /** Who may cover, for whoever may say so. */
  colleagues: Choices["people"];
}
export interface Choices {
  people: { id: string; name: string; jobTitle: string }[];
  calendars: { key: string; name: string }[];
  departments: string[];
  sites: string[];
}

const choicesOf = (d: Directory, but: string): Choices => {
  const everybody = [...d.people.values()];
  return {
    people: colleaguesOf(d, but),
    calendars: [...d.calendars.values()].map(({ key, name }) => ({ key, name })),
    departments: kinds(everybody.map((x) => x.department)),
    sites: kinds(everybody.map((x) => x.site)),
  };
};

/** What somebody new is told apart by, and what can be chosen of them. */
export const newPerson = defineUseCase(
  ["keep people"],
  async (c): Promise<{ said: PersonInput; choices: Choices }> => {
    c.must({ action: "keep people" }, { code: "not-allowed", data: { action: "add people" } });
    const said = {
      name: "",
      email: "",
      jobTitle: "",
      department: "",
      site: "",
      manager: null,
      calendar: null,
    };
    return { said: { ...said, zone: c.actor.zone }, choices: choicesOf(await loadDirectory(getPool()), "") };
  },
);

const kinds = (all: Iterable<string>): string[] => [...new Set(all)].filter(Boolean).sort();

/** Everything about one person: for all, and what only those who keep people see. */
export const personPage = defineUseCase(
  ["see office", "keep people", "set absence"],
  async (c, id: string): Promise<PersonPage> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const p = d.people.get(id);
    const missing = { code: "not-found" as const, data: { what: "person", id } };
    c.must({ action: "see office" }, missing);
    const keeps = c.may({ action: "keep people" });
    if (!p || (!p.active && !keeps)) throw new Failed(missing);
    const maySetAway = c.may({ action: "set absence", person: id });
    return {
      id,
      active: p.active,
      said: inputOf(p),
      managerName: p.manager_id && personName(d, p.manager_id),
      calendarName: p.calendar_key && (d.calendars.get(p.calendar_key)?.name ?? p.calendar_key),
      duties: await dutiesOf(d, id),
      groups: [...d.groups.values()]
        .filter((g) => g.members.includes(id))
        .map(({ key, name }) => ({ key, name })),
      away: await awayTimes(c.actor, id),
      keep: keeps
        ? {
            rights: p.office_rights,
            work: await openWorkOf(d, id),
            ...choicesOf(d, id),
            dutyNames: kinds(d.duties.map((x) => x.duty)),
            dutySites:
              d.registers[ROLE_HOLDERS]?.columns.find((col) => col.id === "site")?.options?.slice() ??
              kinds([...d.people.values()].map((x) => x.site)),
          }
        : null,
      maySetAway,
      colleagues: maySetAway ? colleaguesOf(d, id) : [],
    };
  },
);
