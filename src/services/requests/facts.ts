import {
  DEFAULT_CALENDAR,
  engineFacts as factsOf,
  levelsOf,
  proceduresFrom,
  recordsIn,
  itemsRead,
  scopesTouched,
  type CompiledRelease,
  type EngineFacts,
  type ProceduresRead,
  type RequestState,
  type ScopeValues,
  type Touching,
} from "@/core/engine";
import {
  flatFields,
  REQUESTS,
  targetsOf,
  type FactsData,
  type Field,
  type FileFacts,
  type FormData,
  type RecordRef,
  type Registers,
  type StoredRecord,
} from "@/core/form";
import { recordsLinked, requests, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";
import { loadFileFacts, type FileReach } from "../files/fileFacts";
import { idsNamed, idsOfRecords } from "../kernel/idsNamed";

/** A look-up's record, and what that links to, and once more. */
const LINK_DEPTH = 2;

/** The records that steps have found, as far as any formula reads them: there may be thousands. */
export const recordsKept = (release: CompiledRelease, s: ScopeValues): RecordRef[] =>
  Object.entries(s.kept).flatMap(([step, kept]) => {
    if (!release.stepsRead.has(step)) return [];
    return "value" in kept ? recordsIn(kept.value) : kept.ids.map((id) => ({ register: kept.register, id }));
  });

/** The records that procedures under way read: those their values point at, and those their steps have found. */
export function recordsInCalls(s: RequestState, procedures: ProceduresRead): RecordRef[] {
  return levelsOf(s).flatMap(({ state, calls }) => {
    const call = calls.at(-1);
    const release = call && procedures.releases.get(call.release);
    if (!release) return [];
    const scopes = Object.values(state.scopes);
    const { runs } = state;
    return [
      ...recordsKept(release, state),
      ...scopes.flatMap((x) => recordsKept(release, x)),
      ...itemsRead(state, { scopes, runs: Object.values(runs) }).flatMap(recordsIn),
      ...thingsHeld(release.definition.fields, state.data),
    ];
  });
}

/** Files that come along with a command. */
function filesWith(c: Touching): readonly string[] {
  if (c.type === "replied") return c.reply.files;
  return c.type === "effect done" ? (c.files ?? []) : [];
}

/** The same with those that the rounds a command may come to go over, and those of procedures. */
export function recordsRead(
  release: CompiledRelease,
  s: RequestState,
  c: Touching,
  procedures: ProceduresRead,
): RecordRef[] {
  // What came along is read by what waits for it.
  const came = filesWith(c).map((id) => ({ register: "file", id }));
  const own = [...recordsKept(release, s), ...recordsInCalls(s, procedures), ...came];
  if (Object.keys(s.runs).length === 0) return own;
  const touched = scopesTouched(s, c);
  return [
    ...own,
    ...touched.scopes.flatMap((x) => recordsKept(release, x)),
    ...itemsRead(s, touched).flatMap(recordsIn),
  ];
}

interface FormOf {
  fields: readonly Field[];
  calendar?: string;
}

/** The records that values point at. */
export function recordsHeld(fields: readonly Field[], data: FormData): RecordRef[] {
  return flatFields(fields).flatMap((f): RecordRef[] => {
    const v = data[f.id];
    if (f.kind !== "lines" || !Array.isArray(v)) return targetsOf(f, v, KINDS.fields);
    const columns = (f.fields ?? []).filter((c) => KINDS.fields[c.kind].links);
    return columns.flatMap((c) => v.slice(0, 2000).flatMap((row) => targetsOf(c, row[c.id], KINDS.fields)));
  });
}

const OF_RECORDS: FileReach = { request: null, by: [], ofRecords: true };

/** Files stand among records, in the register of this name. */
const FILES = "file";

/** The records, files and requests that values point at. */
export const thingsHeld = (fields: readonly Field[], data: FormData): RecordRef[] => [
  ...recordsHeld(fields, data),
  ...idsNamed("file", fields, data).map((id) => ({ register: FILES, id })),
  ...idsNamed("request", fields, data).map((id) => ({ register: REQUESTS, id })),
];

/** Reads what forms need for the course of one page or command. */
export interface FactsReader {
  /** The plain data a form over these values needs: the records it points at, and what those link to. */
  load(also: readonly RecordRef[], ...datas: FormData[]): Promise<FactsData>;
  /** Has everything read anew: records were written. */
  forget(): void;
}
/**
 * What was read once is kept.
 * @param shapes the registers with the columns that are fetched; all of them where it is not known what will be read
 * @param own the request it is read for, where that may be linked to before it is kept
 */
export function factsReader(
  db: Db,
  d: Directory,
  process: FormOf,
  reach: FileReach,
  shapes: Registers = d.registers,
  own: StoredRecord | null = null,
): FactsReader {
  const seen: Kept = { records: new Map(), files: new Map() };
  return {
    load: (also, ...datas) => gather(db, { d, shapes, own }, process, reach, seen, also, datas),
    forget() {
      seen.records.clear();
      seen.files.clear();
    },
  };
}
interface Kept {
  /** By register and id. */
  records: Map<string, StoredRecord>;
  files: Map<string, FileFacts>;
}

async function gather(
  db: Db,
  { d, shapes, own }: { d: Directory; shapes: Registers; own: StoredRecord | null },
  process: FormOf,
  reach: FileReach,
  { records: seen, files: seenFiles }: Kept,
  also: readonly RecordRef[],
  datas: readonly FormData[],
): Promise<FactsData> {
  const records: Record<string, Record<string, StoredRecord>> = {};
  let wanted = new Map<string, Set<string>>();
  const want = (register: string, id: string) => {
    if (!shapes[register] || !/^\d{1,18}$/.test(id) || records[register]?.[id]) return;
    wanted.set(register, (wanted.get(register) ?? new Set()).add(id));
  };
  for (const { register, id } of also) want(register, id);
  for (const data of datas)
    for (const { register, id } of recordsHeld(process.fields, data)) want(register, id);
  for (let depth = 0; depth <= LINK_DEPTH && wanted.size > 0; depth++) {
    const now = wanted;
    wanted = new Map();
    const unread = new Map(
      [...now].map(([key, ids]) => [key, [...ids].filter((id) => !seen.has(`${key}/${id}`))]),
    );
    // Everything down to the end at once; what is deeper is found in `seen` as it is come to.
    for (const { register, record } of await recordsLinked(db, shapes, unread, LINK_DEPTH - depth))
      seen.set(`${register}/${record.id}`, record);
    for (const [key, ids] of now) {
      const shape = shapes[key]!;
      for (const id of ids) {
        const r = seen.get(`${key}/${id}`);
        if (!r) continue;
        (records[key] ??= {})[r.id] = r;
        for (const c of shape.columns)
          for (const to of targetsOf(c, r[c.id], KINDS.fields)) want(to.register, to.id);
      }
    }
  }
  const calendar = d.calendars.get(process.calendar ?? DEFAULT_CALENDAR) ?? [...d.calendars.values()][0];
  const beside = also.filter((r) => r.register === FILES).map((r) => r.id);
  const named = [...new Set([...idsNamed("file", process.fields, ...datas), ...beside])];
  const unknown = (ids: readonly string[]) => [...new Set(ids)].filter((id) => !seenFiles.has(id));
  for (const f of Object.values(await loadFileFacts(db, unknown(named), reach))) seenFiles.set(f.id, f);
  // Files of records are known wherever those are read; whether one may be filled in somewhere is the reach's to say.
  const kept = idsOfRecords("file", shapes, records);
  for (const f of Object.values(await loadFileFacts(db, unknown(kept), OF_RECORDS))) seenFiles.set(f.id, f);
  const files = Object.fromEntries(
    [...new Set([...named, ...kept])].flatMap((id) =>
      seenFiles.has(id) ? [[id, seenFiles.get(id)!] as const] : [],
    ),
  );
  const linked = [
    ...idsNamed("request", process.fields, ...datas),
    ...idsOfRecords("request", shapes, records),
    ...also.filter((r) => r.register === REQUESTS).map((r) => r.id),
  ].filter((n) => n !== own?.id);
  const known = await requests.linkedRequests(db, [...new Set(linked)]);
  for (const r of own ? [...known, own] : known) (records[REQUESTS] ??= {})[r.id] = r;
  return {
    people: d.facts,
    registers: d.registers,
    hiddenReads: d.hiddenReads,
    records,
    files,
    ...(calendar ? { office: { managers: d.managers, duties: d.duties, calendar } } : {}),
  };
}

/** Facts for the engine at one moment. */
export const engineFacts = (
  d: Directory,
  data: FactsData,
  at: number,
  zone?: string,
  procedures?: ProceduresRead,
): EngineFacts => factsOf(d.office, data, at, KINDS.fields, zone, procedures && proceduresFrom(procedures));
