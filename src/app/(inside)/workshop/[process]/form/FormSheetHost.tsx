"use client";
import { useMemo } from "react";
import { FormSheet } from "@/workshop";
import { keepSheetWidthsAction } from "../../../../actions/workshop";

/** The form sheet, with the widths its columns were drawn to by whoever works on it. */
export function FormSheetHost({ kept }: { kept: Readonly<Record<string, unknown>> }) {
  const widths = useMemo(() => ({ kept, keep: keepSheetWidthsAction }), [kept]);
  return <FormSheet widths={widths} />;
}
