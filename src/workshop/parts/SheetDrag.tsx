"use client";
import {
  closestCenter,
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type CollisionDetection,
  type KeyboardCoordinateGetter,
  type UniqueIdentifier,
} from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { createContext, useContext, useState, type ReactNode } from "react";
import { classes } from "@/ui";

interface Props {
  /** Tells the sheets of one page apart. */
  id: string;
  /** What a row is called aloud. */
  nameOf(row: string): string;
  /** Where a row would come to stand if it were let go on another, in words; null where it cannot. */
  place(row: string, on: string): string | null;
  onDrop(row: string, on: string): void;
  children: ReactNode;
}

/** Whether what is dragged can be let go where it is. */
const Goes = createContext(false);

const text = (id: UniqueIdentifier): string => String(id);

/** Under the pointer; while keys move it, the nearest. */
const under: CollisionDetection = (args) => {
  const hit = pointerWithin(args);
  return hit.length > 0 || args.pointerCoordinates ? hit : closestCenter(args);
};

/** Arrow keys go from row to row, however high each is. */
const byRow: KeyboardCoordinateGetter = (event, { currentCoordinates, context }) => {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.code];
  const { collisionRect, droppableRects, over, active } = context;
  if (!by || !collisionRect) return undefined;
  event.preventDefault();
  const rows = [...droppableRects].sort((a, b) => a[1].top - b[1].top);
  const here = rows.findIndex(([id]) => id === (over?.id ?? active?.id));
  const next = rows[here + by]?.[1];
  if (!next) return undefined;
  const middle = next.top + next.height / 2 - collisionRect.height / 2;
  return { x: currentCoordinates.x, y: middle };
};

/**
 * Rows of a sheet that are dragged by their grip, with the pointer or with keys (Space takes a row up and puts it down,
 * arrows move it, Escape leaves it where it was). What is dragged is what moves; where it would go is said in words.
 */
export function SheetDrag({ id, nameOf, place, onDrop, children }: Props) {
  const [dragged, setDragged] = useState<string | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: byRow }),
  );
  const whereTo = (row: string, on: string | null) => (on === null || on === row ? null : place(row, on));
  const goes = dragged === null ? null : whereTo(dragged, over);
  const end = () => {
    setDragged(null);
    setOver(null);
  };
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={under}
      accessibility={{
        screenReaderInstructions: {
          draggable: "Space takes the row up; arrow keys move it, Space puts it down, Escape leaves it.",
        },
        announcements: {
          onDragStart: ({ active }) => `${nameOf(text(active.id))} is taken up.`,
          onDragOver: ({ active, over: on }) => {
            const words = whereTo(text(active.id), on && text(on.id));
            return words ? `It would go ${words}.` : "It cannot go here.";
          },
          onDragEnd: ({ active, over: on }) => {
            const words = whereTo(text(active.id), on && text(on.id));
            const name = nameOf(text(active.id));
            return words ? `${name} went ${words}.` : `${name} stays where it was.`;
          },
          onDragCancel: ({ active }) => `${nameOf(text(active.id))} stays where it was.`,
        },
      }}
      onDragStart={({ active }) => setDragged(text(active.id))}
      onDragOver={({ over: on }) => setOver(on && text(on.id))}
      onDragCancel={end}
      onDragEnd={({ active, over: on }) => {
        end();
        if (on && whereTo(text(active.id), text(on.id))) onDrop(text(active.id), text(on.id));
      }}
    >
      <Goes value={goes !== null}>{children}</Goes>
      <DragOverlay dropAnimation={null} className="!w-auto">
        {dragged !== null && (
          <p className="inline-flex max-w-md items-baseline gap-2 rounded border border-line-strong bg-raised px-2.5 py-1 shadow-[0_2px_10px_rgb(0_0_0/0.12)]">
            <span className="truncate font-medium">{nameOf(dragged)}</span>
            <span className="text-sm whitespace-nowrap text-soft">{goes ?? "stays here"}</span>
          </p>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** A row others can be let go on, with the grip by which it is dragged itself. */
export function useDragRow(id: string, name: string, draggable: boolean) {
  const drop = useDroppable({ id });
  const drag = useDraggable({ id, disabled: !draggable });
  const goes = useContext(Goes);
  const { role: _role, ...attributes } = drag.attributes;
  return {
    ref: drop.setNodeRef,
    /** Whether what is dragged would go there. */
    isOver: drop.isOver && goes,
    isDragged: drag.isDragging,
    grip: (className: string, tabIndex: 0 | -1) => (
      <button
        type="button"
        ref={drag.setNodeRef}
        {...attributes}
        {...drag.listeners}
        tabIndex={tabIndex}
        aria-label={`Move ${name}`}
        className={classes(
          "cursor-grab touch-none rounded text-line-strong hover:text-soft",
          !draggable && "invisible",
          className,
        )}
      >
        <GripVertical size={13} aria-hidden />
      </button>
    ),
  };
}
