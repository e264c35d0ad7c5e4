import {
  accountOf,
  walkFields,
  type FactsData,
  type FormData,
  type Party,
  type PersonFacts,
  type ReaderForm,
} from "@/core/form";
import type { Node } from "@/core/expression";
import { KINDS } from "@/kinds";

/** How often somebody's manager is asked for the manager of that. */
const MANAGERS_UP = 20;

/** Every text in some values, however deep. */
function* texts(value: unknown): Generator<string> {
  if (typeof value === "string") yield value;
  else if (typeof value === "object" && value !== null)
    for (const inner of Object.values(value)) yield* texts(inner);
}

/** What the formulas of a form may ask of the office, told by the names in them; too much rather than too little. */
function asks(form: ReaderForm["form"]) {
  const said = JSON.stringify([form.programs, form.fields])
    .replace(/\\[nrt]|\s+/g, " ")
    .toLowerCase();
  const says = (...names: string[]) => names.some((n) => said.includes(n));
  // Entries of a person may be read without being named.
  const anything = says("get value", "get entries");
  return {
    email: anything || says("email"),
    managers: says("manager of"),
    duties: says("holders of"),
  };
}

/** Whether a formula says any of these, told by the names in it. */
const saysIn = (formula: Node, ...names: readonly string[]): boolean => {
  const said = JSON.stringify(formula)
    .replace(/\\[nrt]|\s+/g, " ")
    .toLowerCase();
  return names.some((n) => said.includes(n));
};

/**
 * Whether a formula goes by what nobody outside may have: duties and managers, and who asked, where that is none of them.
 * @param requester who asked
 */
export const asksOffice =
  (requester: Party) =>
  (formula: Node): boolean =>
    saysIn(formula, "manager of", "holders of", ...(requester.kind === "outside" ? [] : ["requester"]));

/** Who asked, as a page may have it: to people outside nobody who works here is told. */
export const askerOn = (requester: Party, outside: boolean): Party =>
  outside && requester.kind !== "outside"
    ? { kind: "outside", name: "", email: "", through: null }
    : requester;

/** Whether a form reads addresses of people. */
export const readsEmail = (reader: Pick<ReaderForm, "form">): boolean => asks(reader.form).email;

/**
 * The people and the office a form's page carries: who may be picked on it, else only those who stand on it or whom its
 * formulas reach; and e-mail addresses only where a formula reads them.
 * @param outside its reader does not work here: of the office they have whoever stands on the form, and nobody else
 */
export function peopleShown(
  all: FactsData,
  { registers, records }: Pick<FactsData, "registers" | "records">,
  reader: ReaderForm,
  typed: FormData,
  requester: Party,
  outside: boolean,
): Pick<FactsData, "people" | "office"> {
  const needs = { ...asks(reader.form), ...(outside ? { managers: false, duties: false } : {}) };
  let picks = false;
  // A record that is picked brings whoever stands in it.
  const bringsPeople = () =>
    Object.values(registers).some((r) => r.columns.some((c) => KINDS.fields[c.kind].idOf === "person"));
  walkFields(reader.form.fields, (f) => {
    if (reader.access[f.id] !== "edit") return;
    const of = KINDS.fields[f.kind].idOf;
    if (!outside && (of === "person" || (of === "record" && bringsPeople()))) picks = true;
  });
  const account = accountOf(requester);
  const shown = new Set<string>([
    ...(account === null ? [] : [account]),
    ...texts(outside ? [reader.data] : [reader.data, typed, records]),
  ]);
  if (needs.duties) for (const h of all.office?.duties ?? []) shown.add(h.person);
  // Formulas can name a person only by what is there already; from there their managers lead on.
  if (needs.managers)
    for (const id of [...shown]) {
      let at: string | undefined = id;
      for (let i = 0; i < MANAGERS_UP && (at = all.office?.managers[at]); i++) shown.add(at);
    }
  const people: Record<string, PersonFacts> = {};
  for (const [id, p] of Object.entries(all.people))
    if (picks || shown.has(id)) people[id] = needs.email ? p : { ...p, email: "" };
  const office = all.office && {
    managers: needs.managers ? all.office.managers : {},
    duties: needs.duties ? all.office.duties : [],
    calendar: all.office.calendar,
  };
  return { people, ...(office ? { office } : {}) };
}
