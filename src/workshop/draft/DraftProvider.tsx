"use client";
import {
  createContext,
  useCallback,
  useContext,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from "react";
import {
  compileRelease,
  DEFAULT_CALENDAR,
  engineFacts,
  Turn,
  NEW_REQUEST,
  samplePath,
  type CompiledRelease,
  type EngineFacts,
  type OfficeData,
  type SamplePath,
} from "@/core/engine";
import type { FactsData, RegisterShape, FileFacts, StoredRecord } from "@/core/form";
import {
  applyEdit,
  CheckCache,
  officeFactsOf,
  problemsOf,
  type Edit,
  type Problem,
  type ProcessDefinition,
  type Sample,
} from "@/core/process";
import { editRefusalSentence } from "@/core/words";
import type { LookUp } from "@/forms";

export interface DraftStart {
  definition: ProcessDefinition;
  version: number;
  office: { data: OfficeData; departments: string[]; registers: Record<string, RegisterShape> };
  facts: FactsData;
  now: number;
}
export type SaveEdits = (
  base: number,
  edits: Edit[],
) => Promise<{ ok: true; value: { version: number } } | { ok: false; sentence: string; code: string }>;

export interface Draft {
  definition: ProcessDefinition;
  office: DraftStart["office"];
  live: string | null;
  now: number;
  /** Applies an edit; gives false, and says why in `said`, when it cannot be. */
  edit(e: Edit): boolean;
  undo(): void;
  redo(): void;
  canUndo: boolean;
  canRedo: boolean;
  saving: string;
  said: string;
  hush(): void;
  problems: Problem[];
  /** Of the definition as last settled: it lags a little behind fast typing. */
  release: CompiledRelease;
  sample: Sample | null;
  setSample(id: string): void;
  facts: EngineFacts;
  factsData: FactsData;
  learn(register: string, record: StoredRecord): void;
  learnFile(file: FileFacts): void;
  lookUp: LookUp;
  /** The chosen sample as a request that has just been made. */
  turn: Turn | null;
  path: SamplePath | null;
}

const Context = createContext<Draft | null>(null);
export function useDraft(): Draft {
  const d = useContext(Context);
  if (!d) throw new Error("useDraft stands outside its provider");
  return d;
}

const SAVE_WAIT_MS = 350;
const MAX_UNDO = 500;

/** Holds a draft while it is designed: edits apply at once, are saved behind the scenes, and can be taken back. */
export function DraftProvider({
  start,
  live,
  save,
  reload,
  lookUp,
  children,
}: {
  start: DraftStart;
  live: string | null;
  save: SaveEdits;
  reload(): void;
  lookUp: LookUp;
  children: ReactNode;
}) {
  const [definition, setDefinition] = useState(start.definition);
  const [undone, setUndone] = useState<{ undo: Edit[]; redo: Edit[] }>({ undo: [], redo: [] });
  const [saving, setSaving] = useState("");
  const [said, setSaid] = useState("");
  const [sampleId, setSample] = useState(start.definition.samples[0]?.id ?? "");
  const [learnt, setLearnt] = useState(start.facts.records);
  const [files, setFiles] = useState(start.facts.files ?? {});
  const registers = start.office.registers;

  const current = useRef(start.definition);
  const version = useRef(start.version);
  const queue = useRef<Edit[]>([]);
  const busy = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const flush = useCallback(async () => {
    if (busy.current || queue.current.length === 0) return;
    busy.current = true;
    const edits = queue.current;
    queue.current = [];
    setSaving("Saving…");
    const r = await save(version.current, edits).catch(() => null);
    busy.current = false;
    if (r?.ok) {
      version.current = r.value.version;
      setSaving("Saved");
      if (queue.current.length > 0) void flush();
    } else if (r) {
      // Somebody else was faster, or the server knows better: its state counts, and is fetched again.
      setSaid(r.sentence);
      setSaving("Not saved");
      reload();
    } else {
      queue.current = [...edits, ...queue.current];
      setSaving("Not saved yet: the server cannot be reached. It is tried again.");
      timer.current = setTimeout(() => void flush(), 3000);
    }
  }, [save, reload]);

  const apply = useCallback(
    (e: Edit): Edit | null => {
      const r = applyEdit(current.current, e, registers);
      if (!r.ok) {
        setSaid(editRefusalSentence(r.refusal));
        return null;
      }
      current.current = r.definition;
      setDefinition(r.definition);
      setSaid("");
      queue.current.push(e);
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => void flush(), SAVE_WAIT_MS);
      return r.inverse;
    },
    [registers, flush],
  );

  const edit = useCallback(
    (e: Edit): boolean => {
      const inverse = apply(e);
      if (!inverse) return false;
      setUndone((u) => ({ undo: [...u.undo.slice(-MAX_UNDO), inverse], redo: [] }));
      return true;
    },
    [apply],
  );
  const undo = useCallback(() => {
    const last = undone.undo.at(-1);
    const inverse = last && apply(last);
    if (inverse) setUndone((u) => ({ undo: u.undo.slice(0, -1), redo: [...u.redo, inverse] }));
  }, [undone, apply]);
  const redo = useCallback(() => {
    const last = undone.redo.at(-1);
    const inverse = last && apply(last);
    if (inverse) setUndone((u) => ({ undo: [...u.undo, inverse], redo: u.redo.slice(0, -1) }));
  }, [undone, apply]);

  useEffect(() => {
    const leave = () => void flush();
    const warn = (e: BeforeUnloadEvent) => {
      if (queue.current.length > 0 || busy.current) e.preventDefault();
    };
    window.addEventListener("pagehide", leave);
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("beforeunload", warn);
      void flush();
    };
  }, [flush]);

  const settled = useDeferredValue(definition);
  const cache = useRef(new CheckCache());
  const office = useMemo(() => officeFactsOf(start.office.data), [start.office.data]);
  const problems = useMemo(
    () => problemsOf(settled, registers, office, cache.current),
    [settled, registers, office],
  );
  const release = useMemo(() => compileRelease(settled, registers), [settled, registers]);
  const factsData = useMemo(() => {
    // Another calendar may have been chosen since the page came.
    const calendar = start.office.data.calendars.find(
      (c) => c.key === (settled.calendar ?? DEFAULT_CALENDAR),
    );
    return {
      ...start.facts,
      records: learnt,
      files,
      ...(start.facts.office && calendar ? { office: { ...start.facts.office, calendar } } : {}),
    };
  }, [start.facts, start.office.data.calendars, learnt, files, settled.calendar]);
  const facts = useMemo(
    () => engineFacts(start.office.data, factsData, start.now),
    [start.office.data, factsData, start.now],
  );
  const sample = settled.samples.find((s) => s.id === sampleId) ?? settled.samples[0] ?? null;
  const turn = useMemo(
    () =>
      sample
        ? new Turn(
            release,
            {
              ...NEW_REQUEST,
              requester: sample.requester,
              number: `${settled.numbering.prefix}-SAMPLE`,
              startedAt: start.now,
              data: sample.data,
            },
            facts,
            sample.requester,
          )
        : null,
    [sample, release, facts, settled.numbering.prefix, start.now],
  );
  const path = useMemo(
    () => (sample ? samplePath(release, sample.requester, sample.data, facts) : null),
    [sample, release, facts],
  );
  const learnFile = useCallback((file: FileFacts) => setFiles((l) => ({ ...l, [file.id]: file })), []);
  const learn = useCallback(
    (register: string, record: StoredRecord) =>
      setLearnt((l) => ({ ...l, [register]: { ...l[register], [record.id]: record } })),
    [],
  );

  const value: Draft = {
    definition,
    office: start.office,
    live,
    now: start.now,
    edit,
    undo,
    redo,
    canUndo: undone.undo.length > 0,
    canRedo: undone.redo.length > 0,
    saving,
    said,
    hush: () => setSaid(""),
    problems,
    release,
    sample,
    setSample,
    facts,
    factsData,
    learn,
    learnFile,
    lookUp,
    turn,
    path,
  };
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
