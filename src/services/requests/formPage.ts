import type {
  PassedShown,
  AccessOf,
  FactsData,
  FormData,
  Party,
  ReaderForm,
  SignatureShown,
  StepForm,
  TypedField,
} from "@/core/form";
import {
  REQUESTS,
  checkOfPass,
  evaluateForm,
  factsSeen,
  findField,
  formForReader,
  hiddenOfRecords,
  partyShown,
  passedShown,
  signaturesShown,
  registersOf,
  walkFields,
  type FieldPlace,
  type Registers,
} from "@/core/form";
import type { CompiledRelease, RequestState, Visit } from "@/core/engine";
import { KINDS } from "@/kinds";
import type { Names } from "@/core/expression";
import type { Directory } from "../kernel/directory";
import { nameIn } from "./nameIn";
import { engineFacts, recordsHeld, type FactsReader } from "./facts";
import { askerOn, asksOffice, peopleShown, readsEmail } from "./peopleShown";
import { idsNamed, idsOfRecords } from "../kernel/idsNamed";

/** Everything a browser needs to show and recalculate a form; plain JSON. */
export interface FormPage extends ReaderForm {
  facts: FactsData;
  now: number;
  zone: string;
  /** Who the formulas' Requester is. */
  requester: Party;
  number: string;
  /** Lines the task at hand is about, as "objects/3": by field and row. */
  about?: string[];
  /** By field or column, all that can be picked there; others are as their kind says. */
  offers?: Visit["offers"];
  /** By field the signatures it holds. */
  signed?: Record<string, SignatureShown>;
  /** Checks that somebody went on past. */
  passed?: PassedShown[];
  /** What of it is shown where it stands, and how. */
  layout?: StepForm;
}

/** The form of a release, or of a register, over some data, as the person with this access may have it. */
export async function formPage(
  reader: FactsReader,
  d: Directory,
  release: Pick<CompiledRelease, "form" | "prepared"> & {
    definition: Pick<CompiledRelease["definition"], "fields">;
  },
  data: FormData,
  access: AccessOf,
  about: {
    requester: Party;
    number: string;
    extra: Names;
    /** The registers its reader sees, as they see them. */
    seen: Registers;
    /** What is kept, where the form is being filled in over it. */
    before?: FormData;
    /** What a step offers to be picked. */
    offers?: Visit["offers"];
    layout?: StepForm | undefined;
    signed?: Record<string, SignatureShown>;
    passed?: PassedShown[];
    at: number;
    zone: string;
    /** Its reader does not work here. */
    outside?: boolean;
  },
): Promise<FormPage> {
  const { fields } = release.definition;
  const offered = Object.entries(about.offers ?? {}).flatMap(([id, values]) => {
    const field = findField(fields, id)?.field;
    return field ? values.flatMap((v) => recordsHeld([field], { [id]: v })) : [];
  });
  const all = await reader.load(offered, data);
  const facts = engineFacts(d, all, about.at, about.zone);
  const result = evaluateForm(release.form, data, access, facts, about.extra, about.before);
  const closed = hiddenOfRecords(d.registers, about.seen);
  const { outside = false } = about;
  const tells = outside ? asksOffice(about.requester) : () => false;
  const asker = askerOn(about.requester, outside);
  const shown = formForReader(release.prepared, result, access, closed, tells);
  const near = factsSeen(all, d.registers, about.seen);
  return {
    ...shown,
    facts: forReader(near, shown, data, asker, outside),
    now: about.at,
    zone: about.zone,
    requester: partyShown(asker, readsEmail(shown)),
    number: about.number,
    ...(about.offers ? { offers: about.offers } : {}),
    ...(about.signed && Object.keys(about.signed).length > 0 ? { signed: about.signed } : {}),
    ...(about.passed && about.passed.length > 0 ? { passed: about.passed } : {}),
    ...(about.layout ? { layout: about.layout } : {}),
  };
}

/** The checks of a form that somebody went on past, as far as its reader may know of them. */
export function passedOf(
  d: Directory,
  { definition, prepared }: Pick<CompiledRelease, "definition" | "prepared">,
  state: RequestState,
  access: AccessOf,
  seen: Registers,
): PassedShown[] {
  const { passed = {} } = state;
  if (Object.keys(passed).length === 0) return [];
  const shown = passedShown(definition.fields, passed, access, nameIn(d, state));
  const closed = hiddenOfRecords(d.registers, seen);
  const of = (id: string, place: FieldPlace) => prepared.records?.[id]?.[place] ?? [];
  return shown.filter(({ key }) => {
    const at = checkOfPass(key);
    const worked = passed[key]!.fields.flatMap((id) => of(id, "worked"));
    return ![...(at ? of(at.field, `check ${at.check}`) : []), ...worked].some(closed);
  });
}

/** The signatures a form holds, as far as its reader may see them. */
export const signaturesOf = (
  d: Directory,
  release: Pick<CompiledRelease, "definition" | "id">,
  state: RequestState,
  access: AccessOf,
): Record<string, SignatureShown> =>
  signaturesShown(release.definition.fields, state, release.id, access, nameIn(d, state));

/** Only registers, records, files and people the visible fields point at go along. */
function forReader(
  all: FactsData,
  reader: ReaderForm,
  typed: FormData,
  requester: Party,
  outside: boolean,
): FactsData {
  const used = new Set<string>();
  const follow = (register: string) => {
    if (used.has(register) || !all.registers[register]) return;
    used.add(register);
    for (const c of all.registers[register].columns) followAll(c);
  };
  const followAll = (f: TypedField) => registersOf(f, KINDS.fields).forEach(follow);
  walkFields(reader.form.fields, followAll);
  const pick = <T>(o: Readonly<Record<string, T>>) =>
    Object.fromEntries(Object.entries(o).filter(([k]) => used.has(k)));
  const near = { registers: pick(all.registers), records: pick(all.records) };
  const numbers = new Set([
    ...idsNamed("request", reader.form.fields, reader.data, typed),
    ...idsOfRecords("request", near.registers, near.records),
  ]);
  const known = Object.entries(all.records[REQUESTS] ?? {}).filter(([n]) => numbers.has(n));
  const linked = {
    ...near,
    records: { ...near.records, ...(known.length > 0 ? { [REQUESTS]: Object.fromEntries(known) } : {}) },
  };
  const named = new Set([
    ...idsNamed("file", reader.form.fields, reader.data, typed),
    ...idsOfRecords("file", linked.registers, linked.records),
  ]);
  return {
    ...peopleShown(all, linked, reader, typed, requester, outside),
    ...linked,
    files: Object.fromEntries(Object.entries(all.files ?? {}).filter(([id]) => named.has(id))),
  };
}
