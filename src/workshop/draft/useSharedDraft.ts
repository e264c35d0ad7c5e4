"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import {
  applyEdit,
  meet,
  rebaseEdits,
  registersCalled,
  touchesOf,
  withoutPaths,
  type Edit,
  type EditClash,
  type ProcessDefinition,
} from "@/core/route";
import type { Registers } from "@/core/form";
import { editRefusalSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { useSaveQueue } from "@/ui";
import type { Asked, Draft, DraftKeeper, TheirEdit } from "./draft";

const SAVE_WAIT_MS = 350;
const RETRY_MS = 3000;
/** How often a draft that is looked at asks what others did. */
const LOOK_MS = 10_000;
/** How long an answer over the draft waits for what was changed just now to be kept, and between two looks. */
const KEPT_MS = 2000;
const KEPT_LOOK_MS = 50;
const MAX_UNDO = 500;
/** So many deeds stay to be taken back once others changed the draft too. */
const MAX_UNDO_SHARED = 100;

/** What of a draft has to do with changing it. */
type SharedDraft = {
  /** Once the server has what was changed until now; after a while all the same, where it cannot be reached. */
  kept(): Promise<void>;
} & Pick<
  Draft,
  | "definition"
  | "edit"
  | "undo"
  | "redo"
  | "canUndo"
  | "canRedo"
  | "saving"
  | "unsaved"
  | "said"
  | "told"
  | "tell"
  | "hush"
  | "asked"
> & {
    /** By what columns are called now. */
    registers: Registers;
  };

type Around = { registers: Registers; kinds: typeof KINDS };

/** The definition after edits that are known to apply. */
function applied(d: ProcessDefinition, edits: readonly Edit[], around: Around): ProcessDefinition {
  return edits.reduce((at, e) => {
    const r = applyEdit(at, e, around);
    if (!r.ok) throw new Error(`an edit the server applied is refused: ${r.refusal.code}`);
    return r.definition;
  }, d);
}

const peopleOf = (theirs: readonly TheirEdit[]): string[] => [
  ...new Set(theirs.map((t) => t.by ?? "Somebody")),
];

/**
 * A draft that others may be changing too. What this page has is always: the draft as the server had it at a version,
 * and this page's own edits behind it. Edits of others come in between, by `rebaseEdits` (which the server does too, so
 * that both come to the same); where both changed the same, this page's person is asked before anything is sent.
 */
export function useSharedDraft(
  start: { definition: ProcessDefinition; version: number },
  opened: Registers,
  keeper: DraftKeeper,
): SharedDraft {
  const [definition, setDefinition] = useState(start.definition);
  const [registers, setRegisters] = useState(opened);
  const [undone, setUndone] = useState<{ undo: Edit[]; redo: Edit[] }>({ undo: [], redo: [] });
  const [saving, setSaving] = useState("");
  const [unsaved, setUnsaved] = useState(false);
  const [said, setSaid] = useState("");
  const [told, setTold] = useState("");
  const [asked, setAsked] = useState<Asked | null>(null);
  /** What the server has, and what it has not got yet. */
  const known = useRef({ definition: start.definition, version: start.version });
  const mine = useRef<readonly Edit[]>([]);
  const now = useRef(start.definition);
  const waits = useRef(false);
  const sendSoon = useRef(() => {});
  const around = useRef({ registers, kinds: KINDS });
  around.current = { registers, kinds: KINDS };

  const show = useCallback((d: ProcessDefinition) => {
    now.current = d;
    setDefinition(d);
  }, []);

  /**
   * Puts this page's edits behind those of others; asks where that cannot be done for everybody.
   * @param theirs edits since the known version
   * @param saved how many of mine the server has put behind them already, and at which version that left the draft
   */
  const take = useCallback(
    (theirs: readonly TheirEdit[], saved: { count: number; version: number } | null, settled = false) => {
      const { definition: base } = known.current;
      const edits = theirs.map((t) => t.edit);
      const r = rebaseEdits(base, edits, mine.current, around.current);
      if (!settled && (r.clashes.length > 0 || r.refused.length > 0)) {
        waits.current = true;
        setSaving("Not saved yet: first it is to be said what counts");
        setAsked({
          clashes: r.clashes,
          refused: r.refused,
          by: peopleOf(theirs),
          settle(taken: readonly EditClash[]) {
            const paths = taken.map((c) => c.path);
            mine.current = withoutPaths(base, mine.current, paths, around.current);
            waits.current = false;
            setAsked(null);
            take(theirs, saved, true);
            sendSoon.current();
          },
        });
        return;
      }
      if (edits.length > 0) {
        const over = rebaseEdits(base, mine.current, edits, around.current);
        const at = now.current;
        setUndone((u) => ({
          undo: over.refused.length > 0 ? [] : stillMine(at, u.undo, over.edits, around.current),
          redo: [],
        }));
      }
      const count = saved?.count ?? 0;
      known.current = {
        definition: applied(base, [...edits, ...r.edits.slice(0, count)], around.current),
        version: saved?.version ?? theirs.at(-1)!.version,
      };
      mine.current = r.edits.slice(count);
      // What columns are called meanwhile is known by this alone.
      setRegisters((all) =>
        edits.reduce((now, e) => (e.op === "columns.rename" ? registersCalled(now, e, "to") : now), all),
      );
      show(r.definition);
    },
    [show],
  );

  const queue = useSaveQueue<true>({
    waitMs: SAVE_WAIT_MS,
    retryMs: RETRY_MS,
    leaving: "ask",
    join: () => true,
    async save() {
      if (waits.current) return "later";
      const sent = mine.current;
      if (sent.length === 0) return "saved";
      setSaving("Saving…");
      const { version: base } = known.current;
      const r = await keeper.save(base, [...sent]).catch(() => null);
      if (!r) {
        setSaving("Not saved yet: the server cannot be reached. It is tried again.");
        return "later";
      }
      if (r.ok) {
        const { theirs, version } = r.value;
        setSaving(theirs.length > 0 ? `Saved, behind changes of ${peopleOf(theirs).join(", ")}` : "Saved");
        // What was typed meanwhile may clash, what was sent does not: the server looked.
        take(theirs, { count: sent.length, version });
        setUnsaved(mine.current.length > 0);
        return "saved";
      }
      if (r.code === "stale-draft") {
        const s = await keeper.since(base).catch(() => null);
        if (!s) return "later";
        if (s.ok && s.value.edits && s.value.edits.length > 0) {
          take(s.value.edits, null);
          return "later";
        }
      }
      // The server knows better: its state counts, and is fetched again.
      setSaid(r.sentence);
      setSaving("Not saved");
      setUnsaved(false);
      keeper.reload();
      return "dropped";
    },
  });
  sendSoon.current = () => queue.add(true);

  // Somebody who only looks sees what others do, too.
  useEffect(() => {
    const look = async () => {
      if (document.hidden || waits.current || !queue.idle) return;
      const at = known.current.version;
      const r = await keeper.since(at).catch(() => null);
      if (!r?.ok || waits.current || !queue.idle || known.current.version !== at) return;
      if (r.value.edits === null) keeper.reload();
      else if (r.value.edits.length > 0) {
        take(r.value.edits, null);
        setSaving(`${peopleOf(r.value.edits).join(", ")} changed this draft just now`);
      }
    };
    const timer = setInterval(() => void look(), LOOK_MS);
    const seen = () => void look();
    document.addEventListener("visibilitychange", seen);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", seen);
    };
  }, [keeper, queue, take]);

  const apply = useCallback(
    (e: Edit): Edit | null => {
      const r = applyEdit(now.current, e, around.current);
      if (!r.ok) {
        setSaid(editRefusalSentence(r.refusal));
        return null;
      }
      mine.current = [...mine.current, e];
      // From now on, not only from when it is sent: a release must not go out without it.
      setUnsaved(true);
      setSaving("Saving…");
      show(r.definition);
      setSaid("");
      queue.add(true);
      return r.inverse;
    },
    [show, queue],
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
  const kept = useCallback(async () => {
    const until = Date.now() + KEPT_MS;
    // Behind what is under way already it goes by itself.
    await Promise.race([queue.flush(), new Promise((r) => setTimeout(r, KEPT_MS))]);
    while (!queue.idle && Date.now() < until) await new Promise((r) => setTimeout(r, KEPT_LOOK_MS));
  }, [queue]);
  const hush = useCallback(() => {
    setSaid("");
    setTold("");
  }, []);

  return {
    definition,
    registers,
    edit,
    undo,
    redo,
    canUndo: undone.undo.length > 0,
    canRedo: undone.redo.length > 0,
    saving,
    unsaved,
    said,
    told,
    tell: setTold,
    hush,
    asked,
    kept,
  };
}

/**
 * What may still be taken back after others changed the draft: not what they changed since, or undoing one's own would
 * undo theirs. What is left is carried through their renames.
 * @param undo oldest first
 */
function stillMine(
  d: ProcessDefinition,
  undo: readonly Edit[],
  theirs: readonly Edit[],
  around: Around,
): Edit[] {
  let at = d;
  const others = theirs.flatMap((e) => {
    const touched = touchesOf(at, e, around.kinds);
    const r = applyEdit(at, e, around);
    if (r.ok) at = r.definition;
    return touched;
  });
  at = d;
  const kept: Edit[] = [];
  for (const e of undo.slice(-MAX_UNDO_SHARED).toReversed()) {
    const r = applyEdit(at, e, around);
    // Older ones hang on this one.
    if (!r.ok || touchesOf(at, e, around.kinds).some((t) => others.some((o) => meet(o, t)))) break;
    kept.push(e);
    at = r.definition;
  }
  const carried = rebaseEdits(d, theirs, kept, around);
  return carried.refused.length > 0 ? [] : carried.edits.toReversed();
}
