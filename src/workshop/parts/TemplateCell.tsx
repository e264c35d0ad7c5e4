"use client";
import { useCallback } from "react";
import type { Names } from "@/core/expression";
import { TemplateField, type TemplateFieldProps } from "@/formula";
import { useDraft } from "../draft/DraftProvider";
import { useNamesHere } from "./StepHere";

/**
 * A text with formulas in braces, read against the chosen sample.
 * @param own the names it reads, where these are others than those of its row; null where they are not known
 */
export function TemplateCell({
  own,
  ...p
}: Omit<TemplateFieldProps, "around" | "whose" | "names" | "money" | "sum"> & { own?: Names | null }) {
  const { facts, turn, sample } = useDraft();
  const here = useNamesHere();
  const names = own === undefined ? here : own;
  const release = turn?.release;
  const money = useCallback((name: string) => release?.money.has(name) ?? false, [release]);
  const sum = useCallback((name: string) => release?.sums.has(name) ?? false, [release]);
  return (
    <TemplateField
      {...p}
      names={names}
      around={facts}
      money={money}
      sum={sum}
      whose={sample ? `“${sample.name}”` : "the sample"}
    />
  );
}
