"use client";
import { MoreHorizontal, Plus } from "lucide-react";
import { useState } from "react";
import { stepKind } from "@/core/kinds";
import { heldBy, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, classes, Menu, type MenuGroup } from "@/ui";
import { KindPicker } from "./KindPicker";
import type { RowDeeds } from "./rowDeeds";
import type { SheetRow } from "./rows";

interface Props {
  row: SheetRow;
  chosen: boolean;
  picking: boolean;
  deeds: RowDeeds;
}

/** How the kind of a step holds lists, while there may be one more. */
function roomForList(step: Step) {
  const { lists } = stepKind(KINDS, step);
  return lists && heldBy(step, lists).length < (lists.most ?? Infinity) ? lists : null;
}

/** Whether a row may be taken away by itself: a step may need one of its lists. */
function mayGo(row: SheetRow): boolean {
  if (row.kind !== "list") return true;
  const { lists } = stepKind(KINDS, row.owner);
  return lists !== null && heldBy(row.owner, lists).length > (lists.least ?? 0);
}

/** Tools of a row, in a margin of their own beside it: they never lie over what the row says. */
export function RowTools({ row, chosen, picking, deeds }: Props) {
  const [open, setOpen] = useState(false);
  const tabIndex = chosen ? 0 : -1;
  const lists = row.kind === "step" ? roomForList(row.step) : null;
  // Where a row could go is looked up when somebody asks.
  const places = open ? deeds.places(row) : [];
  const item = (id: string, label: string, onPick: () => void) => ({ id, label, onPick });
  const groups: MenuGroup[] = [
    { items: lists ? [item("list", `Add: ${lists.one}`, () => deeds.addList(row))] : [] },
    {
      items:
        row.kind === "step"
          ? [
              item("note", "Note", () => deeds.noting(row, "note")),
              item("stage", "A stage begins here", () => deeds.noting(row, "stage")),
            ]
          : [],
    },
    {
      items: [
        item("up", "Up", () => deeds.up(row)),
        item("down", "Down", () => deeds.down(row)),
        ...places.map((p) => item(`into-${p.list}`, `Into ${p.name}`, () => deeds.nest(row, p.list))),
        ...(row.kind === "step" && row.ref.owner !== null
          ? [item("out", "Out of its list", () => deeds.unnest(row))]
          : []),
      ],
    },
    { items: mayGo(row) ? [{ ...item("remove", "Remove", () => deeds.remove(row)), bad: true }] : [] },
  ];
  return (
    <span
      className={classes(
        "flex w-16 shrink-0 items-center justify-end transition-opacity group-focus-within:opacity-100 group-hover:opacity-100",
        chosen || picking || open ? "opacity-100" : "opacity-0",
      )}
    >
      {row.kind !== "start" && (
        <Menu
          groups={groups}
          onOpenChange={setOpen}
          trigger={
            <Button small look="quiet" tabIndex={tabIndex} aria-label={`More for ${row.number}`}>
              <MoreHorizontal size={16} aria-hidden />
            </Button>
          }
        />
      )}
      <KindPicker
        open={picking}
        onOpenChange={(o) => deeds.picking(row, o)}
        onPick={(k) => deeds.pick(row, k)}
        trigger={
          <Button small look="quiet" tabIndex={tabIndex} aria-label={`Add a step after ${row.number}`}>
            <Plus size={14} aria-hidden />
          </Button>
        }
      />
    </span>
  );
}
