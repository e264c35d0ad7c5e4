/** Some of those who are signed in, said once for all whoever comes and goes. */
export type Audience =
  | { by: "everybody" }
  | { by: "group"; group: string }
  | { by: "department"; department: string }
  | { by: "duty"; duty: string }
  | { by: "person"; person: string };

/** Who may start a request: everybody signed in, or the members of a group or department. */
export type StartAudience = Extract<Audience, { by: "everybody" | "group" | "department" }>;

/** Who somebody is, as far as audiences ask. */
export interface Onlooker {
  id: string;
  department: string;
  groups: readonly string[];
  /** Whether they hold a duty, for whatever place. */
  holds(duty: string): boolean;
}

/** Whether somebody is one of an audience. */
export function isAmong(a: Audience, who: Onlooker): boolean {
  switch (a.by) {
    case "everybody":
      return true;
    case "group":
      return who.groups.includes(a.group);
    case "department":
      return who.department === a.department;
    case "duty":
      return who.holds(a.duty);
    case "person":
      return who.id === a.person;
  }
}
