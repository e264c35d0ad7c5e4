"use client";
import type { Editor } from "@tiptap/core";
import { createContext, useContext, useMemo } from "react";
import { sampleAt, type At, type Turn } from "@/core/engine";
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
import { lettersUsed, RouteScopes, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { NODE } from "./document";

/** The names a letter reads outside of what it repeats, and their values for the chosen sample; null where it comes to none. */
export interface LetterNames {
  scope: Scope;
  names: Names | null;
}
/** Worked out once for all that stands in the letter: there may be a hundred values. */
export const LetterHere = createContext<LetterNames>({ scope: {}, names: null });

/** The names of one letter. */
export function useNamesOfLetter(id: string): LetterNames {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const turn = useDraft((d) => d.turn);
  const scope = useMemo(
    () =>
      new RouteScopes(definition, { registers, kinds: KINDS }).of({ kind: "letter", id }, undefined).scope,
    [definition, registers, id],
  );
  return useMemo(() => {
    const at = turn && whereSent(turn, definition, id);
    return { scope, names: turn && at ? turn.names(at.scope) : null };
  }, [definition, turn, scope, id]);
}

/** Where a letter is sent from first, for the sample; null where that comes to no round it stands in. */
export function whereSent(turn: Turn, definition: ProcessDefinition, id: string): At | null {
  const [sender] = lettersUsed(definition, KINDS).get(id) ?? [];
  return sender === undefined ? { step: "", scope: null } : sampleAt(turn, sender);
}

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

/** The names a formula of the letter may read, in a part that is repeated those of its first thing too. */
export function useLetterNames(each: EachHere | null): LetterNames {
  const outer = useContext(LetterHere);
  const facts = useDraft((d) => d.facts);
  const [of, as] = [each?.of, each?.as];
  return useMemo(() => {
    if (of === undefined || as === undefined) return outer;
    const { type, ast } = checkFormula(of, outer.scope);
    const scope = { ...outer.scope, [as]: type.t === "list" ? type.of : type };
    const around = outer.names;
    const list = ast && around ? evaluate(compile(ast), environment(around, facts)) : null;
    const first = isList(list) ? (list[0] ?? null) : list;
    const names: Names | null =
      around && first !== null ? { get: (n) => (n === as ? first : around.get(n)) } : null;
    return { scope, names };
  }, [outer, facts, of, as]);
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
