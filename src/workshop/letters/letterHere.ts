"use client";
import type { Editor } from "@tiptap/core";
import { createContext, useContext, useMemo } from "react";
import { sampleAt } from "@/core/engine";
import {
  checkFormula,
  compile,
  environment,
  evaluate,
  isList,
  readText,
  valueInText,
  type Names,
  type Scope,
} from "@/core/expression";
import { lettersUsed, RouteScopes } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { NODE } from "./document";

/** The letter that is being written; its id. */
export const LetterHere = createContext("");

/** The list a part of a letter is repeated for, and what formulas call a thing of it. */
export interface EachHere {
  of: string;
  as: string;
}

/** The block that is repeated in which a place of the editor stands. */
export function eachAround(editor: Editor, pos: number | undefined): EachHere | null {
  if (pos === undefined) return null;
  const at = editor.state.doc.resolve(pos);
  for (let depth = at.depth; depth > 0; depth--) {
    const node = at.node(depth);
    if (node.type.name === NODE.each) return { of: String(node.attrs["of"]), as: String(node.attrs["as"]) };
  }
  return null;
}

/** The names a formula of the letter may read, and their values for the chosen sample; null where it comes to none. */
export function useLetterNames(each: EachHere | null): { scope: Scope; names: Names | null } {
  const id = useContext(LetterHere);
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const facts = useDraft((d) => d.facts);
  const turn = useDraft((d) => d.turn);
  const [of, as] = [each?.of, each?.as];
  const outer = useMemo(() => {
    const scopes = new RouteScopes(definition, { registers, kinds: KINDS });
    return scopes.of({ kind: "letter", id }, undefined).scope;
  }, [definition, registers, id]);
  return useMemo(() => {
    const [sender] = lettersUsed(definition, KINDS).get(id) ?? [];
    const at = turn && (sender === undefined ? { step: "", scope: null } : sampleAt(turn, sender));
    const around = turn && at ? turn.names(at.scope) : null;
    if (of === undefined || as === undefined) return { scope: outer, names: around };
    const { type, ast } = checkFormula(of, outer);
    const scope = { ...outer, [as]: type.t === "list" ? type.of : type };
    const list = ast && around ? evaluate(compile(ast), environment(around, facts)) : null;
    const first = isList(list) ? (list[0] ?? null) : list;
    const names: Names | null =
      around && first !== null ? { get: (n) => (n === as ? first : around.get(n)) } : null;
    return { scope, names };
  }, [definition, id, turn, facts, outer, of, as]);
}

/** How a value reads for the sample; null where it is not known. */
export function useSampleWords(formula: string, scope: Scope, names: Names | null): string | null {
  const facts = useDraft((d) => d.facts);
  const sums = useDraft((d) => d.turn?.release.sums);
  return useMemo(() => {
    const { ast } = checkFormula(formula, scope);
    if (!ast || !names) return null;
    return readText(
      valueInText(ast, compile(ast), environment(names, facts), (n) => sums?.has(n) ?? false),
      false,
    );
  }, [formula, scope, names, facts, sums]);
}
