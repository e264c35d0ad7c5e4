import { listOf, PERSON, TEXT, type Scope, type Type } from "../expression";

/** Stands in the place of a register's key where people of the office are meant; no register can be called so. */
export const PEOPLE = "@people";

/** What may be asked of the people of the office, as of the columns of a register. */
export const PEOPLE_COLUMNS = [
  { id: "name", name: "Name", type: TEXT },
  { id: "job_title", name: "Job title", type: TEXT },
  { id: "department", name: "Department", type: TEXT },
  { id: "site", name: "Site", type: TEXT },
  { id: "email", name: "Email", type: TEXT },
  { id: "manager", name: "Manager", type: PERSON },
  { id: "groups", name: "Groups", type: listOf(TEXT) },
  { id: "duties", name: "Duties", type: listOf(TEXT) },
] as const satisfies readonly { id: string; name: string; type: Type }[];

export type PeopleColumn = (typeof PEOPLE_COLUMNS)[number]["id"];

/** Those of one value each, which people can be put in order by. */
export const PEOPLE_SORTED: readonly { id: PeopleColumn; name: string }[] = PEOPLE_COLUMNS.filter(
  (c) => c.type.t === "text",
);

export const peopleScope = (): Scope => Object.fromEntries(PEOPLE_COLUMNS.map((c) => [c.name, c.type]));
