"use client";
import {
  acceptCompletion,
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  closeCompletion,
  completionKeymap,
  completionStatus,
  type CompletionContext,
  type CompletionResult,
} from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { Compartment, EditorState, Prec, StateEffect, StateField, type Extension } from "@codemirror/state";
import {
  Decoration,
  EditorView,
  keymap,
  placeholder as placeholderOf,
  type DecorationSet,
} from "@codemirror/view";
import { useEffect, useRef } from "react";
import type { FormulaProblem, Names, Scope, Type } from "@/core/expression";
import { formulaLanguage, templateLanguage } from "./language";
import { offersAt, type Writing } from "./offers";

export interface FormulaEditorProps {
  writing: Writing;
  /** More than one: Enter starts a new line, and Ctrl Enter keeps. */
  lines: number;
  text: string;
  label: string;
  placeholder: string;
  scope: Scope;
  wanted: Type;
  names: Names | null;
  problems: readonly FormulaProblem[];
  /** Where the caret stands at first. */
  caret: number;
  describedBy: string;
  onChange(text: string): void;
  onEnter(): void;
  /** Whether the caret is still meant to be here: the editor may be loaded after somebody went elsewhere. */
  wantsFocus(): boolean;
  /** Given how to close the list of completions; that gives false where none is open. */
  onReady(closeList: () => boolean): void;
  onTab(back: boolean): void;
  onMend(): void;
  onWhy(): void;
}

const setProblems = StateEffect.define<readonly FormulaProblem[]>();
const wavy = Decoration.mark({ class: "formula-problem" });
const doubtful = Decoration.mark({ class: "formula-doubt" });
const marks = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(old, tr) {
    for (const e of tr.effects)
      if (e.is(setProblems)) {
        const end = tr.newDoc.length;
        // An empty place has nothing to underline; the character before it stands for it.
        const spots = e.value
          .map((p) => ({ code: p.code, from: Math.min(p.from, end), to: Math.min(p.to, end) }))
          .map((p) => (p.from === p.to ? { ...p, from: Math.max(0, p.from - 1) } : p))
          .filter((p) => p.from < p.to);
        return Decoration.set(
          spots.map((p) => (p.code === "may-be-empty" ? doubtful : wavy).range(p.from, p.to)),
          true,
        );
      }
    return old.map(tr.changes);
  },
  provide: (f) => EditorView.decorations.from(f),
});

const look = EditorView.theme({
  "&": { backgroundColor: "transparent", fontSize: "0.84rem" },
  "&.cm-focused": { outline: "none" },
  ".cm-content": { fontFamily: "var(--font-mono)", padding: "5px 0", caretColor: "var(--ink)" },
  // Here and not around it: the list of completions must be able to stand over the edge.
  ".cm-scroller": { maxHeight: "16rem", overflowY: "auto" },
  ".cm-line": { padding: "0 2px" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-placeholder": { color: "var(--ink-faint)" },
  ".formula-problem": { textDecoration: "underline wavy var(--brick)", textUnderlineOffset: "3px" },
  ".formula-doubt": { textDecoration: "underline dotted var(--lichen)", textUnderlineOffset: "3px" },
  ".cm-tooltip.cm-tooltip-autocomplete": {
    border: "1px solid var(--line-strong)",
    borderRadius: "4px",
    backgroundColor: "var(--raised)",
    color: "var(--ink)",
    boxShadow: "0 2px 10px rgb(0 0 0 / 0.12)",
  },
  ".cm-tooltip.cm-tooltip-autocomplete > ul": {
    fontFamily: "var(--font-sans)",
    maxHeight: "14rem",
    minWidth: "19rem",
  },
  ".cm-tooltip.cm-tooltip-autocomplete > ul > li": {
    padding: "3px 9px",
    display: "flex",
    gap: "12px",
    alignItems: "baseline",
  },
  ".cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]": {
    backgroundColor: "var(--slate-wash)",
    color: "var(--ink)",
  },
  ".cm-completionLabel": { fontFamily: "var(--font-mono)", fontSize: "0.82rem", flex: "none" },
  ".cm-completionMatchedText": { textDecoration: "none", fontWeight: "700" },
  ".cm-completionDetail": {
    marginLeft: "auto",
    fontStyle: "normal",
    color: "var(--ink-soft)",
    fontSize: "0.78rem",
    overflow: "hidden",
    textOverflow: "ellipsis",
    whiteSpace: "nowrap",
    maxWidth: "15rem",
  },
  ".cm-completionInfo": {
    padding: "8px 10px",
    maxWidth: "18rem",
    border: "1px solid var(--line-strong)",
    backgroundColor: "var(--raised)",
    fontSize: "0.82rem",
  },
});

const languageOf = (p: Pick<FormulaEditorProps, "writing" | "scope">): Extension =>
  p.writing === "formula" ? formulaLanguage(p.scope) : templateLanguage(p.scope);
/** Prose is set as it will be read; only what stands in braces looks like a formula. */
const prose = EditorView.theme({
  "&": { fontSize: "0.94rem" },
  ".cm-content": { fontFamily: "var(--font-sans)" },
  ".formula-part": {
    fontFamily: "var(--font-mono)",
    fontSize: "0.84rem",
    backgroundColor: "var(--slate-wash)",
    borderRadius: "3px",
  },
});

/** What a function does, beside the list; loaded when first asked for. */
async function infoOf(name: string): Promise<Node | null> {
  const { REFERENCE } = await import("@/core/reference");
  const info = REFERENCE[name];
  if (!info) return null;
  const box = document.createElement("div");
  box.appendChild(document.createElement("p")).textContent = info.says;
  const example = box.appendChild(document.createElement("code"));
  example.textContent = info.example;
  example.style.cssText =
    "display:block;margin-top:4px;font-family:var(--font-mono);color:var(--ink-soft);overflow-wrap:anywhere";
  return box;
}

/** Where a formula or a text with formulas is written: CodeMirror, growing with what stands in it. Loaded only when somebody starts to write. */
export default function FormulaEditor(p: FormulaEditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const now = useRef(p);
  const language = useRef(new Compartment());
  useEffect(() => {
    now.current = p;
  });

  useEffect(() => {
    const source = (context: CompletionContext): CompletionResult | null => {
      const { writing, scope, wanted, names } = now.current;
      const found = offersAt(
        writing,
        context.state.doc.toString(),
        context.pos,
        context.explicit,
        scope,
        wanted,
        names,
      );
      if (!found) return null;
      return {
        from: found.from,
        filter: false,
        // At once: who types fast and presses Enter means what the list shows for the whole of it.
        update: (_old, _from, _to, next) => source(next),
        options: found.options.map((o) => ({
          label: o.label,
          detail: o.detail,
          type: o.kind,
          ...(o.kind === "function" ? { info: () => infoOf(o.label) } : {}),
          apply: (v: EditorView, _c: unknown, from: number, to: number) => {
            // A call that stands there already keeps its brackets.
            const called = o.kind === "function" && v.state.sliceDoc(to, to + 1) === "(";
            const insert = called ? o.label : o.insert;
            v.dispatch({
              changes: { from, to, insert },
              selection: { anchor: from + insert.length - (called ? 0 : o.caret) },
              userEvent: "input.complete",
            });
          },
        })),
      };
    };
    const run = (f: () => void) => () => {
      f();
      return true;
    };
    const keys: Extension = [
      Prec.highest(
        keymap.of([
          { key: "Tab", run: (v) => completionStatus(v.state) === "active" && acceptCompletion(v) },
        ]),
      ),
      keymap.of([...closeBracketsKeymap, ...completionKeymap]),
      keymap.of([
        ...(now.current.lines > 1 ? [] : [{ key: "Enter", run: run(() => now.current.onEnter()) }]),
        { key: "Mod-Enter", run: run(() => now.current.onEnter()) },
        {
          key: "Shift-Enter",
          run: (v) => {
            v.dispatch(v.state.replaceSelection("\n"));
            return true;
          },
        },
        { key: "Tab", run: run(() => now.current.onTab(false)), shift: run(() => now.current.onTab(true)) },
        { key: "Mod-.", run: run(() => now.current.onMend()) },
        { key: "Alt-w", run: run(() => now.current.onWhy()) },
      ]),
      keymap.of([...historyKeymap, ...defaultKeymap]),
    ];
    const made = new EditorView({
      parent: host.current!,
      state: EditorState.create({
        doc: now.current.text,
        selection: { anchor: Math.min(now.current.caret, now.current.text.length) },
        extensions: [
          keys,
          history(),
          closeBrackets(),
          marks,
          ...(now.current.writing === "template" ? [prose] : []),
          look,
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ style: `min-height: ${now.current.lines * 1.4}em` }),
          autocompletion({ override: [source], icons: false, interactionDelay: 0, activateOnTypingDelay: 0 }),
          language.current.of(languageOf(now.current)),
          placeholderOf(now.current.placeholder),
          EditorView.contentAttributes.of({
            "aria-label": now.current.label,
            "aria-describedby": now.current.describedBy,
            "aria-multiline": String(now.current.lines > 1),
            spellcheck: String(now.current.writing === "template"),
            autocorrect: "off",
          }),
          EditorView.updateListener.of((u) => {
            if (u.docChanged) now.current.onChange(u.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = made;
    // A frame later: focused before it stands in its place, the browser puts the caret to the front.
    const focusing = requestAnimationFrame(() => {
      if (now.current.wantsFocus()) made.focus();
    });
    now.current.onReady(() => closeCompletion(made));
    return () => {
      cancelAnimationFrame(focusing);
      made.destroy();
      view.current = null;
    };
  }, []);

  useEffect(() => {
    const v = view.current;
    // A text from elsewhere: a mend, a row, an undo.
    if (v && v.state.doc.toString() !== p.text)
      v.dispatch({
        changes: { from: 0, to: v.state.doc.length, insert: p.text },
        selection: { anchor: p.text.length },
      });
  }, [p.text]);
  useEffect(() => {
    view.current?.dispatch({ effects: setProblems.of(p.problems) });
  }, [p.problems]);
  useEffect(() => {
    view.current?.dispatch({
      effects: language.current.reconfigure(languageOf({ writing: p.writing, scope: p.scope })),
    });
  }, [p.writing, p.scope]);

  return <div ref={host} />;
}
