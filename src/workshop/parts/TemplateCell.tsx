"use client";
import { useCallback } from "react";
import { TemplateField, type TemplateFieldProps } from "@/formula";
import { useDraft } from "../draft/DraftProvider";
import { useNamesHere } from "./StepHere";

/** A text with formulas in braces, read against the chosen sample. */
export function TemplateCell(p: Omit<TemplateFieldProps, "around" | "whose" | "names" | "money" | "sum">) {
  const { facts, turn, sample } = useDraft();
  const names = useNamesHere();
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
