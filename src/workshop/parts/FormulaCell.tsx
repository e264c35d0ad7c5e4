"use client";
import { useMemo } from "react";
import { flatFields } from "@/core/form";
import type { IsFilled } from "@/core/expression";
import { FormulaField, type FormulaFieldProps } from "@/formula";
import { useDraft } from "../draft/DraftProvider";

/** A formula of the draft: read against the chosen sample and the office of the draft. */
export function FormulaCell(p: Omit<FormulaFieldProps, "around" | "filled" | "whose">) {
  const { facts, definition, sample } = useDraft();
  const always = useMemo(
    () =>
      new Set([
        "Requester",
        "Request",
        ...flatFields(definition.fields)
          .filter((f) => f.needed === "true" && !f.shown)
          .map((f) => f.name),
      ]),
    [definition.fields],
  );
  // Parts of a record may be empty even where the record is there.
  const filled: IsFilled = (path) =>
    path.length === 1 ? always.has(path[0]!) : path[0] === "Requester" || path[0] === "Request";
  return (
    <FormulaField {...p} around={facts} filled={filled} whose={sample ? `“${sample.name}”` : "the sample"} />
  );
}
