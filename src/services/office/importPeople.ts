import Papa from "papaparse";
import { personInput, type PersonInput } from "@/contracts";
import type { PersonRow } from "@/db";
import { inputOf, PERSON_WORDS } from "./keepPeople";
import { idFor, personMistake, type Staff } from "./personRules";

const MOST_ROWS = 5000;
const MOST_CHARACTERS = 2_000_000;

/** One row of the sheet that changes something, or cannot. */
export interface ImportRow {
  /** The line of the sheet, the heading being 1. */
  line: number;
  name: string;
}
export interface ImportPlan {
  added: (ImportRow & { id: string; to: PersonInput })[];
  changed: (ImportRow & {
    id: string;
    to: PersonInput;
    what: { field: string; before: string; after: string }[];
  })[];
  same: number;
  refused: (ImportRow & { why: string })[];
  /** Headings that mean nothing here. */
  ignored: string[];
}

const HEADINGS: Readonly<Record<string, keyof PersonInput>> = {
  name: "name",
  "e-mail": "email",
  email: "email",
  "e-mail address": "email",
  job: "jobTitle",
  "job title": "jobTitle",
  department: "department",
  site: "site",
  manager: "manager",
  "working calendar": "calendar",
  calendar: "calendar",
  "time zone": "zone",
  zone: "zone",
};

/** What a sheet of people would change, without changing anything. Rows are told apart by their e-mail address. */
export function planImport(
  csv: string,
  staff: Staff,
  calendars: ReadonlyMap<string, { name: string }>,
  zone: string,
): ImportPlan | { mistake: string } {
  if (csv.length > MOST_CHARACTERS)
    return { mistake: "The sheet is too long: at most 2 million characters are read." };
  const { data } = Papa.parse<string[]>(csv.replace(/^﻿/, "").trim(), { skipEmptyLines: "greedy" });
  const [heads, ...rows] = data;
  const columns = (heads ?? []).map((h) => HEADINGS[h.trim().toLowerCase()]);
  if (!columns.includes("name") || !columns.includes("email"))
    return {
      mistake:
        'The first line names the columns; "Name" and "E-mail" must be among them, for example: Name,E-mail,Job,Department,Site,Manager',
    };
  const twice = columns.find((k, i) => k !== undefined && columns.indexOf(k) !== i);
  if (twice) return { mistake: `Two columns are called "${PERSON_WORDS[twice]}".` };
  if (rows.length > MOST_ROWS)
    return { mistake: `The sheet has ${rows.length} people; at most ${MOST_ROWS} are taken at once.` };
  const plan: ImportPlan = {
    added: [],
    changed: [],
    same: 0,
    refused: [],
    ignored: (heads ?? []).filter((h, i) => columns[i] === undefined && h.trim() !== ""),
  };
  planRows(plan, rows, columns, new Map(staff), calendars, zone);
  return plan;
}

/** By name or e-mail address; null for nobody, undefined where it cannot be told who is meant. */
function personNamed(text: string, all: readonly PersonRow[]): string | null | undefined {
  const said = text.trim().toLowerCase();
  if (said === "") return null;
  const found = all.filter((p) => p.active && (p.email === said || p.name.toLowerCase() === said));
  return found.length === 1 ? found[0]!.id : undefined;
}

function planRows(
  plan: ImportPlan,
  rows: readonly string[][],
  columns: readonly (keyof PersonInput | undefined)[],
  /** As it will be: a manager may stand further down the sheet. */
  staff: Map<string, PersonRow>,
  calendars: ReadonlyMap<string, { name: string }>,
  zone: string,
): void {
  const seen = new Set<string>();
  const work: {
    line: number;
    id: string;
    old: PersonRow | null;
    input: PersonInput;
    manager: string | undefined;
  }[] = [];
  rows.forEach((cells, i) => {
    const line = i + 2;
    const said = Object.fromEntries(columns.flatMap((k, at) => (k ? [[k, (cells[at] ?? "").trim()]] : [])));
    const name = said["name"] ?? "";
    const refuse = (why: string) =>
      void plan.refused.push({ line, name: name || (said["email"] ?? ""), why });
    const email = personInput.shape.email.safeParse(said["email"] ?? "");
    if (!email.success) return refuse(`E-mail: ${email.error.issues[0]!.message}`);
    if (seen.has(email.data)) return refuse(`${email.data} stands in the sheet twice; the first one counts.`);
    seen.add(email.data);
    const old = [...staff.values()].find((p) => p.email === email.data) ?? null;
    if (old && !old.active) return refuse(`The account of ${old.name} is closed; open it again first.`);
    const base: PersonInput = old
      ? inputOf(old)
      : {
          name: "",
          email: email.data,
          jobTitle: "",
          department: "",
          site: "",
          manager: null,
          calendar: null,
          zone,
        };
    const { manager, calendar, ...rest } = said;
    const key = calendarNamed(calendar, base.calendar, calendars);
    if (key === undefined) return refuse(`There is no working calendar "${calendar}".`);
    // An empty zone says nothing; all else that is empty is empty.
    const parsed = personInput.safeParse({
      ...base,
      ...rest,
      zone: rest["zone"] || base.zone,
      calendar: key,
      email: email.data,
    });
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      return refuse(`${PERSON_WORDS[issue.path[0] as keyof PersonInput] ?? ""}: ${issue.message}`);
    }
    const id = old?.id ?? idFor(parsed.data.name, (x) => staff.has(x));
    staff.set(id, { ...(old ?? blankRow(id)), name: parsed.data.name, email: email.data });
    work.push({ line, id, old, input: parsed.data, manager });
  });
  const before = new Map([...staff].map(([id, p]) => [id, p.manager_id]));
  const all = [...staff.values()];
  let open = work.map((w) => ({
    ...w,
    to: w.manager === undefined ? w.input.manager : personNamed(w.manager, all),
  }));
  // Who manages whom is looked at as it will be, all at once: two may change places. What is refused stays as it was,
  // which may refuse others in turn.
  for (let refused = true; refused;) {
    const manages = (w: (typeof open)[number], id: string | null) =>
      staff.set(w.id, { ...staff.get(w.id)!, manager_id: id });
    for (const w of open) manages(w, w.to ?? null);
    const mistakes = new Map(open.map((w) => [w, managerMistake(w, staff, calendars)]));
    refused = false;
    for (const [w, why] of mistakes) {
      if (why === null) continue;
      refused = true;
      plan.refused.push({ line: w.line, name: w.input.name, why });
      if (w.old) manages(w, before.get(w.id) ?? null);
      else staff.delete(w.id);
    }
    open = open.filter((w) => mistakes.get(w) === null);
  }
  for (const w of open) put(plan, w, { ...w.input, manager: w.to ?? null }, staff);
  plan.refused.sort((a, b) => a.line - b.line);
}

function managerMistake(
  w: { id: string; input: PersonInput; manager: string | undefined; to: string | null | undefined },
  staff: Staff,
  calendars: ReadonlyMap<string, unknown>,
): string | null {
  if (w.to === undefined)
    return `Manager: "${w.manager}" is nobody here, or more than one; give the e-mail address.`;
  if (w.to !== null && !staff.has(w.to)) return `Manager: "${w.manager}" is refused, too.`;
  return personMistake({ ...w.input, manager: w.to }, w.id, staff, calendars)?.message ?? null;
}

function put(
  plan: ImportPlan,
  w: { line: number; id: string; old: PersonRow | null },
  to: PersonInput,
  staff: Staff,
): void {
  const row = { line: w.line, name: to.name, id: w.id, to };
  if (!w.old) return void plan.added.push(row);
  const before = inputOf(w.old);
  const shown = (k: keyof PersonInput, v: string | null) =>
    k === "manager" && v !== null ? (staff.get(v)?.name ?? v) : (v ?? "");
  const what = (Object.keys(PERSON_WORDS) as (keyof PersonInput)[])
    .filter((k) => before[k] !== to[k])
    .map((k) => ({ field: PERSON_WORDS[k], before: shown(k, before[k]), after: shown(k, to[k]) }));
  if (what.length === 0) plan.same++;
  else plan.changed.push({ ...row, what });
}

const blankRow = (id: string): PersonRow => ({
  id,
  name: "",
  email: "",
  job_title: "",
  department: "",
  site: "",
  manager_id: null,
  calendar_key: null,
  zone: "UTC",
  office_rights: false,
  active: true,
  shows: "",
});

/** A calendar by its name or key; undefined where there is none called so. */
function calendarNamed(
  said: string | undefined,
  before: string | null,
  calendars: ReadonlyMap<string, { name: string }>,
): string | null | undefined {
  if (said === undefined) return before;
  if (said === "") return null;
  const found = [...calendars].find(
    ([key, c]) => key === said || c.name.toLowerCase() === said.toLowerCase(),
  );
  return found?.[0];
}
