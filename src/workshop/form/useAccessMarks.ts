"use client";
import { useMemo, useRef, useState } from "react";
import type { Access } from "@/core/form";
import { accessAt, applyEdit, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import type { Draft } from "../draft/draft";
import { accessEdit, heldBack, type AccessCell } from "./accessEdits";
import type { FieldDeeds } from "./fieldDeeds";

const KEYS: Readonly<Record<string, Access | null>> = {
  e: "edit",
  s: "see",
  h: "hide",
  Delete: null,
  Backspace: null,
};
const NEXT: Record<Access, Access> = { edit: "see", see: "hide", hide: "edit" };
const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Cells from one corner to the other. */
interface Marks {
  from: AccessCell;
  to: AccessCell;
}
export interface AccessSheet {
  /** Ids of the rows in sight, from the top, and of the steps, from the left. */
  rows: readonly string[];
  steps: readonly string[];
  definition: ProcessDefinition;
}

/** The cells of who sees what that are marked, the one the focus is in, and what keys do with them. */
export function useAccessMarks(
  sheet: { readonly current: AccessSheet },
  edit: Draft["edit"],
  tell: Draft["tell"],
) {
  const [marks, setMarks] = useState<Marks | null>(null);
  /** The same at once: keys follow each other before anything is drawn anew. */
  const now = useRef<Marks | null>(null);
  /** The focus moves because marks were extended. */
  const extending = useRef(false);

  const deeds = useMemo((): Pick<FieldDeeds, "cellKey" | "cellClick" | "cellFocus"> & {
    column(step: string): void;
  } => {
    const mark = (m: Marks | null) => {
      now.current = m;
      setMarks(m);
    };
    const focus = ({ field, step }: AccessCell, extend: boolean) => {
      extending.current = extend;
      document.getElementById(cellId(field, step))?.focus();
      extending.current = false;
    };
    const near = (
      { field, step }: AccessCell,
      [down, right]: readonly [number, number],
    ): AccessCell | null => {
      const { rows, steps } = sheet.current;
      const [row, col] = [rows[rows.indexOf(field) + down], steps[steps.indexOf(step) + right]];
      return row !== undefined && col !== undefined ? { field: row, step: col } : null;
    };
    const put = (cells: readonly AccessCell[], access: Access | null) => {
      const e = accessEdit(cells, access);
      if (!edit(e)) return;
      const r = applyEdit(sheet.current.definition, e, { kinds: KINDS, registers: {} });
      const held = r.ok ? cells.flatMap((c) => heldBack(r.definition, c) ?? [])[0] : undefined;
      if (held) tell(HELD[held.by]("name" in held ? held.name : ""));
    };
    return {
      cellFocus(cell) {
        const from = extending.current ? (now.current?.from ?? cell) : cell;
        mark({ from, to: cell });
      },
      cellClick(cell, extend) {
        if (extend) return mark({ from: now.current?.from ?? cell, to: cell });
        const { definition } = sheet.current;
        const is = definition.access[cell.step]?.[cell.field] ?? accessAt(definition, cell.step)(cell.field);
        put([cell], NEXT[is]);
      },
      cellKey(e, cell) {
        if (e.ctrlKey || e.metaKey || e.altKey) return;
        const way = WAYS[e.key];
        const access = KEYS[e.key.length === 1 ? e.key.toLowerCase() : e.key];
        if (!way && access === undefined) return;
        e.preventDefault();
        if (way) {
          const next = near(cell, way);
          if (next) focus(next, e.shiftKey);
          return;
        }
        put(cellsOf(now.current ?? { from: cell, to: cell }, sheet.current), access!);
      },
      column(step) {
        const { rows } = sheet.current;
        const [first, last] = [rows[0], rows.at(-1)];
        if (first === undefined || last === undefined) return;
        focus({ field: first, step }, false);
        mark({ from: { field: first, step }, to: { field: last, step } });
      },
    };
  }, [edit, sheet, tell]);
  return { marks, deeds };
}

const HELD = {
  group: (name: string) => `It stays hidden while “${name}”, in which it stands, is hidden there.`,
  "left out": () => "It is not shown there: the form of that step leaves it out.",
};

/** The id of a cell on the page. */
export const cellId = (field: string, step: string): string => `access-${step}-${field}`;

/** The cells between two corners, both among them. */
function cellsOf({ from, to }: Marks, { rows, steps }: Pick<AccessSheet, "rows" | "steps">): AccessCell[] {
  const between = (list: readonly string[], a: string, b: string) => {
    const [x, y] = [list.indexOf(a), list.indexOf(b)];
    return x < 0 || y < 0 ? [] : list.slice(Math.min(x, y), Math.max(x, y) + 1);
  };
  return between(rows, from.field, to.field).flatMap((field) =>
    between(steps, from.step, to.step).map((step) => ({ field, step })),
  );
}

/** Ids of the steps whose cells are marked, by row; rows without any are left out. */
export function markedSteps(
  marks: Marks | null,
  sheet: Pick<AccessSheet, "rows" | "steps">,
): ReadonlyMap<string, string> {
  const out = new Map<string, string>();
  const cells = marks ? cellsOf(marks, sheet) : [];
  if (cells.length < 2) return out;
  for (const { field, step } of cells) out.set(field, `${out.get(field) ?? ""} ${step} `);
  return out;
}
