"use client";
import {
  createContext,
  useCallback,
  useContext,
  useDeferredValue,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from "react";
import { compileRelease, DEFAULT_CALENDAR, engineFacts, samplePath, sampleTurn } from "@/core/engine";
import { sampleMailFiles, type FileFacts, type StoredRecord } from "@/core/form";
import { CheckCache, officeFactsOf, problemsOf } from "@/core/problems";
import { KINDS } from "@/kinds";
import type { LookUp } from "@/forms";
import type { Draft, DraftKeeper, DraftStart } from "./draft";
import { proceduresTried } from "./proceduresTried";
import { problemsByPlace } from "./problemsByPlace";
import { DraftStore } from "./store";
import { useSharedDraft } from "./useSharedDraft";

const Context = createContext<DraftStore | null>(null);
const ALL = (d: Draft): Draft => d;
/**
 * The draft, or a part of it. With a part, the caller is drawn anew only when that part changes; it must be something
 * that stays the same while it does not change, so no fresh lists or objects.
 */
export function useDraft(): Draft;
export function useDraft<T>(part: (d: Draft) => T): T;
export function useDraft(part: (d: Draft) => unknown = ALL): unknown {
  const store = useContext(Context);
  if (!store) throw new Error("useDraft stands outside its provider");
  const read = () => part(store.get());
  return useSyncExternalStore(store.subscribe, read, read);
}

/** Holds a draft while it is designed: edits apply at once, are saved behind the scenes, and can be taken back. */
export function DraftProvider({
  start,
  live,
  keeper,
  lookUp,
  children,
}: {
  start: DraftStart;
  live: string | null;
  /** The same one as long as the page shows the draft. */
  keeper: DraftKeeper;
  lookUp: LookUp;
  children: ReactNode;
}) {
  const [sampleId, setSample] = useState(start.definition.samples[0]?.id ?? "");
  const [learnt, setLearnt] = useState(start.facts.records);
  const [files, setFiles] = useState(start.facts.files ?? {});
  const { prefixes, mailTakers, sight, procedures: handedTo } = start.office;

  const shared = useSharedDraft(start, start.office.registers, keeper);
  const {
    registers,
    definition,
    edit,
    undo,
    redo,
    canUndo,
    canRedo,
    saving,
    unsaved,
    said,
    told,
    tell,
    hush,
    asked,
    kept,
  } = shared;

  const settled = useDeferredValue(definition);
  const cache = useRef(new CheckCache());
  const held = useMemo(() => ({ ...start.office, registers }), [start.office, registers]);
  const office = useMemo(() => officeFactsOf(start.office.data), [start.office.data]);
  const known = useMemo(() => Object.fromEntries(handedTo.map((p) => [p.key, p])), [handedTo]);
  const problems = useMemo(
    () =>
      problemsOf(settled, {
        kinds: KINDS,
        registers,
        office,
        prefixes,
        mailTakers,
        sight,
        procedures: known,
        cache: cache.current,
      }),
    [settled, registers, office, prefixes, mailTakers, sight, known],
  );
  const [byPlace] = useState(problemsByPlace);
  const problemsAt = useMemo(() => byPlace(problems), [byPlace, problems]);
  const release = useMemo(() => compileRelease(settled, registers, KINDS), [settled, registers]);
  const factsData = useMemo(() => {
    // Another calendar may have been chosen since the page came.
    const calendar = start.office.data.calendars.find(
      (c) => c.key === (settled.calendar ?? DEFAULT_CALENDAR),
    );
    return {
      ...start.facts,
      registers,
      records: learnt,
      files: { ...sampleMailFiles(settled.samples), ...files },
      ...(start.facts.office && calendar ? { office: { ...start.facts.office, calendar } } : {}),
    };
  }, [start.facts, start.office.data.calendars, registers, learnt, files, settled.calendar, settled.samples]);
  const facts = useMemo(
    () => ({
      ...engineFacts(start.office.data, factsData, start.now, KINDS.fields),
      procedures: proceduresTried(handedTo, registers),
    }),
    [start.office.data, factsData, start.now, handedTo, registers],
  );
  const sample = settled.samples.find((s) => s.id === sampleId) ?? settled.samples[0] ?? null;
  const turn = useMemo(() => (sample ? sampleTurn(release, sample, facts) : null), [sample, release, facts]);
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

  // The server answers over the draft as it has it.
  const ask: Draft["ask"] = useCallback((...q) => kept().then(() => keeper.ask(...q)), [kept, keeper]);

  const documents: Draft["documents"] = useMemo(
    () => ({
      ...keeper.documents,
      first: (id) => kept().then(() => keeper.documents.first(id)),
      pages: (id, of) => kept().then(() => keeper.documents.pages(id, of)),
    }),
    [kept, keeper],
  );

  const value: Draft = useMemo(
    () => ({
      definition,
      office: held,
      live,
      now: start.now,
      edit,
      undo,
      redo,
      canUndo,
      canRedo,
      saving,
      unsaved,
      said,
      told,
      tell,
      asked,
      hush,
      problems,
      problemsAt,
      release,
      sample,
      setSample,
      facts,
      factsData,
      learn,
      learnFile,
      lookUp,
      preview: keeper.preview,
      ask,
      values: keeper.values,
      starting: keeper.starting,
      keepLetter: keeper.keepLetter,
      keepLadder: keeper.keepLadder,
      documents,
      mails: keeper.mails,
      mail: keeper.mail,
      turn,
      path,
    }),
    [
      definition,
      held,
      live,
      start.now,
      edit,
      undo,
      redo,
      canUndo,
      canRedo,
      saving,
      unsaved,
      said,
      told,
      tell,
      asked,
      hush,
      problems,
      problemsAt,
      release,
      sample,
      facts,
      factsData,
      learn,
      learnFile,
      lookUp,
      ask,
      documents,
      keeper,
      turn,
      path,
    ],
  );
  const [store] = useState(() => new DraftStore(value));
  useLayoutEffect(() => store.publish(value), [store, value]);
  return <Context.Provider value={store}>{children}</Context.Provider>;
}
