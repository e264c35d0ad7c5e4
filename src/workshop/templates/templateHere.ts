"use client";
import { useMemo } from "react";
import { documentWritten, sampleAt } from "@/core/engine";
import { firstsOf, type DocumentTag, type DocumentTemplate, type FirstOf } from "@/core/document";
import type { Scope } from "@/core/expression";
import { documentsUsed, RouteScopes } from "@/core/route";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";

/** What each tag comes to as the chosen sample begins; null where there is none, or the draft has not settled. */
export function useWritten(
  template: DocumentTemplate,
): { first: (FirstOf | null)[] } | { why: string } | null {
  const turn = useDraft((d) => d.turn);
  return useMemo(() => {
    const { definition, documents } = turn?.release ?? {};
    const known = [...(documents?.values() ?? [])].find((x) => x.id === template.id);
    if (!turn || !definition || known?.tags.length !== template.tags.length) return null;
    const [maker] = documentsUsed(definition, KINDS).get(template.id) ?? [];
    const at = maker === undefined ? { step: "", scope: null } : sampleAt(turn, maker);
    if (!at) return { why: "For this sample the step that draws it up is not come to." };
    const written = documentWritten(turn, at, template.id);
    if ("go" in written) return { why: stuckSentence(written.reason, KINDS) };
    const { filled, whys } = written;
    const named = (id: string) => String(turn.facts.file(id)?.get("name") ?? "");
    const first = firstsOf(template.tags, filled, named);
    return { first: first.map((f, i) => (whys.has(i) ? { why: whys.get(i)! } : f)) };
  }, [turn, template]);
}

/** A tag with the names its formula may read, and how deep it stands. */
export interface TagHere {
  at: number;
  tag: DocumentTag;
  scope: Scope;
  deep: number;
}

/** The tags of a template in order, each with what may be read where it stands. */
export function useTags(template: DocumentTemplate): TagHere[] {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  return useMemo(() => {
    const scopes = new RouteScopes(definition, { registers, kinds: KINDS });
    const around: (string | null)[] = [];
    return template.tags.map((tag, at) => {
      if (tag.tag === "end") around.pop();
      const lists = around.filter((x): x is string => x !== null);
      const { scope } = scopes.of(
        { kind: "document", id: template.id },
        lists.length > 0 ? { eachIn: lists } : "route",
      );
      const deep = Math.max(around.length - (tag.tag === "otherwise" ? 1 : 0), 0);
      if (tag.tag === "each") around.push(tag.of);
      if (tag.tag === "if") around.push(null);
      return { at, tag, scope, deep };
    });
  }, [definition, registers, template]);
}
