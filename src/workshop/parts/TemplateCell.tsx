"use client";
import { useCallback } from "react";
import { TemplateField, type TemplateFieldProps } from "@/formula";
import { useDraft } from "../draft/DraftProvider";

/** A text with formulas in braces, read against the chosen sample. */
export function TemplateCell(p: Omit<TemplateFieldProps, "around" | "whose" | "names" | "money">) {
  const { facts, turn, sample } = useDraft();
  const release = turn?.release;
  const money = useCallback((name: string) => release?.money.has(name) ?? false, [release]);
  return (
    <TemplateField
      {...p}
      names={turn?.names() ?? null}
      around={facts}
      money={money}
      whose={sample ? `“${sample.name}”` : "the sample"}
    />
  );
}
