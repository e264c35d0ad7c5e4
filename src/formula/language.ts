import { HighlightStyle, LRLanguage, syntaxHighlighting } from "@codemirror/language";
import { EditorState, StateField, type Extension, type Range } from "@codemirror/state";
import { Decoration, EditorView, type DecorationSet } from "@codemirror/view";
import { highlightTree, tags as t } from "@lezer/highlight";
import { formulaStart, grammarFor, templateParts, type Scope } from "@/core/expression";

const languages = new WeakMap<Scope, Extension>();

/** Colours come from the tokens of the page, so that the dark theme needs nothing of its own. */
const colours = HighlightStyle.define([
  {
    tag: [t.keyword, t.controlKeyword, t.operatorKeyword, t.logicOperator, t.definitionKeyword],
    color: "var(--slate)",
    fontWeight: "600",
  },
  { tag: [t.string, t.special(t.string)], color: "var(--moss)" },
  { tag: [t.number, t.bool, t.null, t.literal], color: "var(--lichen)" },
  { tag: [t.comment, t.lineComment, t.blockComment], color: "var(--ink-faint)", fontStyle: "italic" },
  { tag: [t.function(t.variableName), t.function(t.special(t.variableName))], color: "var(--slate)" },
]);
const style = syntaxHighlighting(colours);
const BRACKETS = ["(", "[", "{", '"'];

/** Colouring by the very grammar that formulas are read with, set up for the names in scope. */
export function formulaLanguage(scope: Scope): Extension {
  let l = languages.get(scope);
  if (!l)
    languages.set(
      scope,
      (l = [
        LRLanguage.define({
          parser: grammarFor(scope),
          languageData: { closeBrackets: { brackets: BRACKETS } },
        }),
        style,
      ]),
    );
  return l;
}

const inBraces = Decoration.mark({ class: "formula-part" });

/** Plain text, with what stands in braces set and coloured as formulas. */
export function templateLanguage(scope: Scope): Extension {
  const parser = grammarFor(scope);
  const marks = (text: string): DecorationSet => {
    const found: Range<Decoration>[] = [];
    for (const p of templateParts(text)) {
      if (!("formula" in p)) continue;
      // With its braces, which may stand apart from the formula.
      found.push(inBraces.range(text.lastIndexOf("{", p.from - 1), text.indexOf("}", p.to) + 1));
      highlightTree(parser.parse(p.formula), colours, (from, to, c) =>
        found.push(Decoration.mark({ class: c }).range(p.from + from, p.from + to)),
      );
    }
    return Decoration.set(found, true);
  };
  return [
    StateField.define<DecorationSet>({
      create: (state) => marks(state.doc.toString()),
      update: (old, tr) => (tr.docChanged ? marks(tr.newDoc.toString()) : old),
      provide: (f) => EditorView.decorations.from(f),
    }),
    EditorView.styleModule.of(colours.module!),
    // In prose an apostrophe or a bracket stands alone; a brace never does.
    EditorState.languageData.of((state, at) => [
      { closeBrackets: { brackets: formulaStart(state.doc.toString(), at) === null ? ["{"] : BRACKETS } },
    ]),
  ];
}
