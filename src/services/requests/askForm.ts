import type { CompiledRelease, EngineFacts } from "@/core/engine";
import { colleagueValues } from "@/core/engine";
import { environment, evaluate, isContext, isList, type FormulaProblem, type Names } from "@/core/expression";
import {
  columnAmong,
  evaluateForm,
  findField,
  formAround,
  formForReader,
  hiddenOfRecords,
  recordTitle,
  registersOf,
  type RegisterShape,
  aroundRecords,
  type AccessOf,
  type Field,
  type FormAnswer,
  type FormData,
  type FormQuestion,
  type Offered,
  type Party,
  type PreparedForm,
  type RecordsAsked,
  type Registers,
} from "@/core/form";
import { registers, searching, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";
import { isWithdrawn } from "../kernel/registersSeen";
import { answerAsked } from "./answerAsked";
import { engineFacts, type FactsReader } from "./facts";
import { asksOffice } from "./peopleShown";

const NOTHING: FormAnswer = { offered: [], none: null, records: {} };

/** A form as it is being filled in, and by whom. */
export interface FormAsking {
  d: Directory;
  release: Pick<CompiledRelease, "form" | "definition" | "prepared">;
  /** The process it is of; of a procedure the one that a request came by. */
  process: string;
  /** All of it, what is typed among it. */
  data: FormData;
  before?: FormData;
  access: AccessOf;
  extra: Names;
  reader: FactsReader;
  at: number;
  zone: string;
  /** The registers whoever fills it in sees, as they see them. */
  seen: Registers;
  /** Who asked for the request, where whoever fills it in does not work here. */
  outside?: Party | null;
}

/** What is listed at once. */
const LISTED = 30;
/** Milliseconds a list may take to be worked out. */
const MOST_MS = 2000;

/** Answers what a form asks, for whoever fills it in: by the same conditions that hold when it is sent. */
export async function askForm(on: FormAsking, q: FormQuestion): Promise<FormAnswer> {
  const load = async (also: Parameters<FactsReader["load"]>[0] = []) =>
    engineFacts(on.d, await on.reader.load(also, on.data), on.at, on.zone);
  const facts = await load();
  if (q.ask === "offered") return offered(on, q, facts, load);
  const asked: RecordsAsked[] = [];
  const asking: EngineFacts = { ...facts, recordsThere: (a) => (asked.push(a), null) };
  const result = evaluateForm(on.release.form, on.data, on.access, asking, on.extra, on.before);
  const { definition, prepared } = on.release;
  // What asks by something that is hidden from them is no question of theirs: its answer would tell of that.
  const closed = hiddenOfRecords(on.d.registers, on.seen);
  const { form } = formForReader(
    prepared,
    result,
    on.access,
    closed,
    on.outside ? asksOffice(on.outside) : () => false,
  );
  const theirs = asked.filter((a) => mayAsk(on, form, a));
  if (theirs.length === 0) return NOTHING;
  const withdrawn = isWithdrawn(on.d, on.process, definition.key);
  const records = await searching((db) =>
    readingOnly(db, () =>
      answerAsked(db, theirs, { d: on.d, release: on.release, facts: asking, load, withdrawn }),
    ),
  );
  return { ...NOTHING, records };
}

/** Whether a question goes by nothing that is hidden from whoever fills in. */
function mayAsk(on: FormAsking, { programs }: PreparedForm, { field, about }: RecordsAsked): boolean {
  if ("check" in about) return programs[field]?.[`check ${about.check}`] !== undefined;
  const f = findField(on.release.definition.fields, field)?.field;
  if (!f?.among || (f.offered !== undefined && !programs[field]?.offered)) return false;
  return columnAmong(f, on.seen[f.among.register], KINDS.fields) !== null;
}

async function readingOnly<T>(db: Db, work: () => Promise<T>): Promise<T> {
  await db.query("begin read only");
  try {
    return await work();
  } finally {
    await db.query("rollback");
  }
}

async function offered(
  on: FormAsking,
  { field: id, row, search }: Extract<FormQuestion, { ask: "offered" }>,
  facts: EngineFacts,
  load: Load,
): Promise<FormAnswer> {
  const at = findField(on.release.definition.fields, id);
  const hidden = at?.parents.some((f) => on.access(f.id) === "hide") ?? true;
  if (!(at?.field.offered || at?.field.among) || hidden || !on.release.form.reads.mayEdit(id, on.access))
    return NOTHING;
  const result = evaluateForm(on.release.form, on.data, on.access, facts, on.extra, on.before);
  const table = at.parents.find((p) => p.kind === "lines");
  const own = table ? namesOfRow(on.data, table, row, result.names) : result.names;
  const names = formAround(own, on.release.definition.fields, table);
  if (!at.field.among && KINDS.fields[at.field.kind].idOf === "person")
    return peopleOffered(on, at.field, names, search, facts);
  const looking = lookingIn(on, at, names, facts, load);
  if ("none" in looking) return looking;
  return at.field.among ? textsOffered(at.field, looking, search) : recordsOffered(looking, search);
}

/** The names a formula of a row reads; of a row that is not there those of the form. */
function namesOfRow(data: FormData, table: Field, row: string | null, outer: Names): Names {
  const rows = data[table.id];
  const nth = Array.isArray(rows) ? rows.findIndex((r) => r["#"] === row) : -1;
  const all = outer.get(table.name) ?? null;
  const values = isList(all) ? (all[nth] ?? null) : null;
  if (!isContext(values)) return outer;
  return { get: (name) => (values.has(name) ? values.get(name) : outer.get(name)) };
}

function peopleOffered(
  on: FormAsking,
  field: Field,
  outer: Names,
  search: string,
  facts: EngineFacts,
): FormAnswer {
  const program = on.release.form.byId.get(field.id)?.offered;
  if (!program) return NOTHING;
  const words = search.trim().toLowerCase();
  const until = performance.now() + MOST_MS;
  const found: Offered[] = [];
  for (const p of facts.everybody()) {
    if (performance.now() > until) return { ...NOTHING, none: "It takes too long to see who can be chosen." };
    const known = on.d.facts[p.id];
    if (
      !known ||
      ![known.name, known.jobTitle, known.department].some((t) => t.toLowerCase().includes(words))
    )
      continue;
    const values = colleagueValues(p, (id) => facts.person(id));
    const names: Names = { get: (n) => (values.has(n) ? values.get(n) : outer.get(n)) };
    const notes: FormulaProblem[] = [];
    const yes = evaluate(program, { ...environment(names, facts), notes }) === true;
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) return { ...NOTHING, none: CANNOT_TELL };
    if (yes) found.push({ id: p.id, title: known.name });
  }
  found.sort((a, b) => a.title.localeCompare(b.title, "en"));
  return { ...NOTHING, offered: found.slice(0, LISTED) };
}

/** The reason may tell of what is hidden; whoever designs the form is told it there. */
const CANNOT_TELL = "What can be chosen here hangs on something that cannot be worked out yet.";

type Load = (also: readonly { register: string; id: string }[]) => Promise<EngineFacts>;

/** A register as whoever fills in sees it, and how it is looked in. */
interface Looking {
  seen: RegisterShape;
  sought: Omit<registers.RecordsMeeting, "sort" | "backwards">;
}

/** The register a field looks in; or what is said where it may not be. */
function lookingIn(
  on: FormAsking,
  { field, parents }: { field: Field; parents: readonly Field[] },
  names: Names,
  facts: EngineFacts,
  load: Load,
): Looking | FormAnswer {
  const [key = ""] = registersOf(field, KINDS.fields);
  const shape = on.d.registers[key];
  const seen = on.seen[key];
  if (!shape || !seen) return NOTHING;
  if (isWithdrawn(on.d, on.process, on.release.definition.key)(key))
    return { ...NOTHING, none: `${seen.name} may not be read by this process any more.` };
  const around = { registers: on.d.registers, kinds: KINDS };
  const outside = aroundRecords(on.release.definition.fields, parents, around);
  const condition = field.offered ?? null;
  return {
    seen,
    sought: { shape, condition, outside, names, facts, most: LISTED, around, load, ms: MOST_MS },
  };
}

/** What a search came to; null where it could not be told. */
const orNull = <T>(search: Promise<T[] | { why: string }>): Promise<T[] | null> =>
  search.then(
    (found) => (Array.isArray(found) ? found : null),
    (error: unknown) => {
      if (registers.searchMistake(error) === null) throw error;
      return null;
    },
  );

async function textsOffered(field: Field, { seen, sought }: Looking, search: string): Promise<FormAnswer> {
  // What they may not see they cannot choose from, either.
  const column = columnAmong(field, seen, KINDS.fields);
  if (!column) return { ...NOTHING, none: `You may not see this column of ${seen.name}.` };
  const texts = await searching((db) =>
    orNull(registers.textsMeeting(db, { ...sought, column: column.id, search })),
  );
  if (texts === null) return { ...NOTHING, none: CANNOT_TELL };
  return { ...NOTHING, offered: texts.map((t) => ({ id: t, title: t })) };
}

async function recordsOffered({ seen, sought }: Looking, search: string): Promise<FormAnswer> {
  return searching(async (db) => {
    const words = { search, seen };
    const ids = await orNull(registers.recordsMeeting(db, { ...sought, sort: [], backwards: false, words }));
    if (ids === null) return { ...NOTHING, none: CANNOT_TELL };
    const rows = new Map(
      (await registers.recordsByIds(db, seen, ids.slice(0, LISTED))).map((r) => [r.id, r]),
    );
    const known = ids.flatMap((id) => rows.get(id) ?? []);
    return {
      ...NOTHING,
      offered: known.map((r) => ({ id: r.id, title: recordTitle(seen, r), record: r })),
    };
  });
}
