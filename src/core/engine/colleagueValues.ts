import { isContext, type ContextValue, type Value } from "../expression";
import { PEOPLE_COLUMNS, type PeopleColumn } from "../form";
import type { Colleague } from "./facts";

/**
 * What may be asked of somebody who works here, by name.
 * @param person the value of a person by id
 */
export function colleagueValues(p: Colleague, person: (id: string) => ContextValue): Map<string, Value> {
  const own = person(p.id);
  const said = (entry: string): Value => (isContext(own) ? (own.get(entry) ?? null) : null);
  const by: Record<PeopleColumn, Value> = {
    name: said("name"),
    job_title: said("job title") || null,
    department: said("department") || null,
    site: said("site") || null,
    email: said("email") || null,
    manager: p.manager === null ? null : person(p.manager),
    groups: p.groups,
    duties: p.duties,
  };
  return new Map(PEOPLE_COLUMNS.map((c) => [c.name, by[c.id]]));
}
