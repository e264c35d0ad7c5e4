"use client";
import type { FieldView } from "@/fields/input";

export const view: FieldView = {
  Input: (p) => <input id={p.id} />,
  shown: (v) => `${v}°`,
  figures: true,
  grouped: false,
};
