import { HighlightStyle, LRLanguage, syntaxHighlighting } from "@codemirror/language";
import { tags as t } from "@lezer/highlight";
import type { Extension } from "@codemirror/state";
import { grammarFor, type Scope } from "@/core/expression";

const languages = new WeakMap<Scope, Extension>();

/** Colours come from the tokens of the page, so that the dark theme needs nothing of its own. */
const style = syntaxHighlighting(HighlightStyle.define([
  { tag: [t.keyword, t.controlKeyword, t.operatorKeyword, t.logicOperator, t.definitionKeyword], color: "var(--slate)", fontWeight: "600" },
  { tag: [t.string, t.special(t.string)], color: "var(--moss)" },
  { tag: [t.number, t.bool, t.null, t.literal], color: "var(--lichen)" },
  { tag: [t.comment, t.lineComment, t.blockComment], color: "var(--ink-faint)", fontStyle: "italic" },
  { tag: [t.function(t.variableName), t.function(t.special(t.variableName))], color: "var(--slate)" },
]));

/** Colouring by the very grammar that formulas are read with, set up for the names in scope. */
export function formulaLanguage(scope: Scope): Extension {
  let l = languages.get(scope);
  if (!l) languages.set(scope, (l = [LRLanguage.define({ parser: grammarFor(scope), languageData: { closeBrackets: { brackets: ["(", "[", "{", '"'] } } }), style]));
  return l;
}
