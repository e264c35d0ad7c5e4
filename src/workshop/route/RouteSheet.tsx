"use client";
import {
  Check,
  ClipboardCheck,
  CornerDownRight,
  Flag,
  GitFork,
  GripVertical,
  Megaphone,
  PenLine,
  Plus,
  Scale,
  Sigma,
  Split,
} from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { Group, Panel, Separator } from "react-resizable-panels";
import type { Scope } from "@/core/expression";
import {
  listsOf,
  placesOf,
  routeScope,
  type Edit,
  type ListRef,
  type Step,
  type StepKind,
} from "@/core/process";
import { Button, classes, Kbd, Pebble, Popover } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../draft/newId";
import { PathMap } from "../map/PathMap";
import { blankStep, KINDS, verbOf } from "./blankStep";
import { freshCopy } from "./freshCopy";
import { ListHead } from "./ListHead";
import { sheetRows, type SheetRow } from "./rows";
import { StepSentence } from "./StepSentence";

const ICONS: Record<StepKind, typeof Check> = {
  decide: Scale,
  complete: ClipboardCheck,
  choose: Split,
  together: GitFork,
  write: PenLine,
  "work out": Sigma,
  tell: Megaphone,
  jump: CornerDownRight,
  finish: Flag,
};
type StepRow = Extract<SheetRow, { kind: "step" }>;

/** The route as a numbered list of sentences, with the path map drawn from it. */
export function RouteSheet() {
  const d = useDraft();
  const { definition } = d;
  const [chosen, setChosen] = useState<string | null>(null);
  const [picking, setPicking] = useState<string | null>(null);
  const [cut, setCut] = useState<Step | null>(null);
  const focusNext = useRef<string | null>(null);
  const rows = useMemo(() => sheetRows(definition), [definition]);
  const scope: Scope = useMemo(
    () => routeScope(definition, d.office.registers),
    [definition, d.office.registers],
  );
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor),
  );

  useEffect(() => {
    const id = focusNext.current;
    if (!id) return;
    focusNext.current = null;
    document.getElementById(`step-${id}`)?.focus();
  });
  useEffect(() => {
    const id = /^#step-(.+)$/.exec(location.hash)?.[1];
    if (id) {
      setChosen(id);
      document.getElementById(`step-${id}`)?.focus();
    }
  }, []);

  const taken = (id: string) => {
    const all = placesOf(definition);
    return (
      all.has(id) ||
      [...all.values()].some((p) => listsOf(p.step).some((l) => l.id === id || l.id.startsWith(`${id}-`)))
    );
  };
  const add = (to: ListRef, index: number, kind: StepKind) => {
    const step = blankStep(kind, newId(kind, taken));
    if (d.edit({ op: "step.add", to, index, step })) {
      setChosen(step.id);
      focusNext.current = step.id;
    }
  };
  const addAfter = (row: SheetRow, kind: StepKind) =>
    row.kind === "start"
      ? add({ owner: null, list: null }, 0, kind)
      : row.kind === "list"
        ? add({ owner: row.owner.id, list: row.list }, 0, kind)
        : add(row.ref, row.index + 1, kind);
  const move = (row: StepRow, to: ListRef, index: number) => {
    if (d.edit({ op: "step.move", id: row.id, to, index })) focusNext.current = row.id;
  };
  /** In: into the last list of the step above. Out: behind the step that holds its list. */
  const nest = (row: StepRow) => {
    const list = listOf(definition.route, row.ref);
    const above = list?.[row.index - 1];
    const into = above && listsOf(above).at(-1);
    if (above && into) move(row, { owner: above.id, list: into.id }, into.steps.length);
  };
  const unnest = (row: StepRow) => {
    const owner = row.ref.owner
      ? rows.find((r): r is StepRow => r.kind === "step" && r.id === row.ref.owner)
      : undefined;
    if (owner) move(row, owner.ref, owner.index + 1);
  };
  const remove = (row: StepRow) => {
    const at = rows.indexOf(row);
    if (d.edit({ op: "step.remove", id: row.id })) focusNext.current = rows[at - 1]?.id ?? null;
  };
  const onKey = (e: React.KeyboardEvent, row: SheetRow) => {
    if (e.target !== e.currentTarget) return;
    const at = rows.indexOf(row);
    const focus = (r: SheetRow | undefined) => r && document.getElementById(`step-${r.id}`)?.focus();
    const ctrl = e.ctrlKey || e.metaKey;
    const handle = (work: () => void) => {
      e.preventDefault();
      work();
    };
    if (e.altKey && row.kind === "step") {
      if (e.key === "ArrowUp") return handle(() => row.index > 0 && move(row, row.ref, row.index - 1));
      if (e.key === "ArrowDown")
        return handle(() => row.index < row.siblings - 1 && move(row, row.ref, row.index + 1));
    }
    if (ctrl && row.kind === "step") {
      if (e.key === "c")
        return handle(() => {
          setCut(row.step);
          void navigator.clipboard?.writeText(JSON.stringify(row.step)).catch(() => undefined);
        });
      if (e.key === "x")
        return handle(() => {
          setCut(row.step);
          remove(row);
        });
    }
    if (ctrl && e.key === "v" && cut) return handle(() => paste(row, cut));
    if (ctrl || e.altKey) return;
    switch (e.key) {
      case "Enter":
      case "/":
        return handle(() => setPicking(row.id));
      case "ArrowDown":
        return handle(() => focus(rows[at + 1]));
      case "ArrowUp":
        return handle(() => focus(rows[at - 1]));
      case "Delete":
      case "Backspace":
        return row.kind === "step" ? handle(() => remove(row)) : undefined;
      case "Tab": {
        // Tab nests only where that is possible; anywhere else it leaves the row as keyboard users expect.
        if (row.kind !== "step") return;
        if (e.shiftKey && row.ref.owner) return handle(() => unnest(row));
        const above = listOf(definition.route, row.ref)?.[row.index - 1];
        if (!e.shiftKey && above && listsOf(above).length > 0) return handle(() => nest(row));
        return;
      }
      case "F2":
        return handle(() => (e.currentTarget as HTMLElement).querySelector<HTMLElement>("input")?.focus());
    }
  };
  const paste = (row: SheetRow, step: Step) => {
    const copy = freshCopy(step, taken);
    const edit: Edit =
      row.kind === "start"
        ? { op: "step.add", to: { owner: null, list: null }, index: 0, step: copy }
        : row.kind === "list"
          ? { op: "step.add", to: { owner: row.owner.id, list: row.list }, index: 0, step: copy }
          : { op: "step.add", to: row.ref, index: row.index + 1, step: copy };
    if (d.edit(edit)) focusNext.current = copy.id;
  };

  return (
    <Group orientation="horizontal" className="min-h-[60vh]">
      <Panel defaultSize="68%" minSize="45%">
        <div className="mb-1.5 flex flex-wrap items-center gap-2 pr-3">
          <KindPicker
            open={picking === "end"}
            onOpenChange={(o) => setPicking(o ? "end" : null)}
            onPick={(k) => add({ owner: null, list: null }, definition.route.length, k)}
            trigger={
              <Button small>
                <Plus size={14} aria-hidden /> Step
              </Button>
            }
          />
          <span className="ml-auto text-sm text-soft">
            <Kbd>Enter</Kbd> new row · <Kbd>Tab</Kbd> in, <Kbd>Shift Tab</Kbd> out · <Kbd>Alt ↑↓</Kbd> move ·{" "}
            <Kbd>F2</Kbd> name
          </span>
        </div>
        <DndContext
          id="route"
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            const row = rows.find((r): r is StepRow => r.kind === "step" && r.id === active.id);
            const target = over && rows.find((r) => r.id === over.id);
            if (!row || !target || target.id === row.id) return;
            if (target.kind === "start") move(row, { owner: null, list: null }, 0);
            else if (target.kind === "list") move(row, { owner: target.owner.id, list: target.list }, 0);
            else {
              const same = target.ref.owner === row.ref.owner && target.ref.list === row.ref.list;
              move(row, target.ref, same && row.index < target.index ? target.index : target.index + 1);
            }
          }}
        >
          <ol aria-label="Route" className="max-h-[calc(100vh-13.5rem)] overflow-auto pr-3 pb-24">
            {rows.map((row) => (
              <Row
                key={row.id}
                row={row}
                chosen={chosen === row.id}
                onChoose={() => setChosen(row.id)}
                onKey={(e) => onKey(e, row)}
                scope={scope}
                picking={picking === row.id}
                onPicking={(o) => setPicking(o ? row.id : null)}
                onPick={(k) => addAfter(row, k)}
                onAddList={row.kind === "step" ? () => addList(row.step, taken, d.edit) : undefined}
                deeds={
                  row.kind === "step"
                    ? {
                        up: () => row.index > 0 && move(row, row.ref, row.index - 1),
                        down: () => row.index < row.siblings - 1 && move(row, row.ref, row.index + 1),
                        nest: () => nest(row),
                        unnest: () => unnest(row),
                        remove: () => remove(row),
                      }
                    : null
                }
              />
            ))}
            {definition.route.length === 0 && (
              <li className="py-5 pl-2">
                <p className="font-serif text-lg">No steps yet</p>
                <p className="text-soft">
                  What happens first, once the form is sent? Press Enter on the row above, or use the button.
                </p>
              </li>
            )}
          </ol>
        </DndContext>
      </Panel>
      <Separator
        className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
        aria-label="Width of the path map"
      />
      <Panel minSize="20%">
        <PathMap
          chosen={chosen}
          onChoose={(id) => {
            setChosen(id);
            document.getElementById(`step-${id}`)?.focus();
          }}
        />
      </Panel>
    </Group>
  );
}

function listOf(route: readonly Step[], ref: ListRef): readonly Step[] | null {
  if (ref.owner === null) return route;
  const owner = placesOf({ route: [...route] }).get(ref.owner)?.step;
  return owner ? (listsOf(owner).find((l) => l.id === ref.list)?.steps ?? null) : null;
}

function addList(step: Step, taken: (id: string) => boolean, edit: (e: Edit) => boolean) {
  const id = newId(`${step.id}-way`, taken);
  if (step.kind === "decide")
    edit({
      op: "step.put",
      step: {
        ...step,
        answers: [
          ...step.answers,
          { id, label: `Answer ${step.answers.length + 1}`, tone: "plain", steps: [] },
        ],
      },
    });
  else if (step.kind === "choose") {
    // Before the way for all others, which must stay last.
    const at = step.ways.at(-1)?.when === undefined ? Math.max(0, step.ways.length - 1) : step.ways.length;
    edit({
      op: "step.put",
      step: {
        ...step,
        ways: step.ways.toSpliced(at, 0, { id, name: `way ${step.ways.length + 1}`, when: "", steps: [] }),
      },
    });
  } else if (step.kind === "together")
    edit({
      op: "step.put",
      step: {
        ...step,
        branches: [...step.branches, { id, name: `branch ${step.branches.length + 1}`, steps: [] }],
      },
    });
}

function KindPicker({
  open,
  onOpenChange,
  onPick,
  trigger,
}: {
  open: boolean;
  onOpenChange(o: boolean): void;
  onPick(k: StepKind): void;
  trigger: React.ReactNode;
}) {
  const [search, setSearch] = useState("");
  const found = KINDS.filter((k) =>
    `${k.verb} ${k.says}`.toLowerCase().includes(search.trim().toLowerCase()),
  );
  const pick = (k: StepKind) => {
    onOpenChange(false);
    setSearch("");
    onPick(k);
  };
  return (
    <Popover
      open={open}
      onOpenChange={(o) => {
        onOpenChange(o);
        setSearch("");
      }}
      trigger={trigger}
      width={330}
    >
      <input
        autoFocus
        className="input mb-1.5"
        aria-label="Kind of step"
        placeholder="What should happen?"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && found[0]) {
            e.preventDefault();
            pick(found[0].kind);
          }
        }}
      />
      <ul>
        {found.map((k) => {
          const Icon = ICONS[k.kind];
          return (
            <li key={k.kind}>
              <button
                type="button"
                className="flex w-full items-center gap-2.5 rounded px-2 py-1 text-left hover:bg-slate-wash focus-visible:bg-slate-wash"
                onClick={() => pick(k.kind)}
              >
                <Icon size={16} strokeWidth={1.6} aria-hidden />{" "}
                <span className="w-20 font-medium">{k.verb}</span>{" "}
                <span className="text-sm text-soft">{k.says}</span>
              </button>
            </li>
          );
        })}
      </ul>
      {found.length === 0 && <p className="px-2 text-soft">No kind of step matches.</p>}
    </Popover>
  );
}

interface RowProps {
  row: SheetRow;
  chosen: boolean;
  onChoose(): void;
  onKey(e: React.KeyboardEvent): void;
  scope: Scope;
  picking: boolean;
  onPicking(open: boolean): void;
  onPick(k: StepKind): void;
  onAddList: (() => void) | undefined;
  deeds: { up(): void; down(): void; nest(): void; unnest(): void; remove(): void } | null;
}

function Row({
  row,
  chosen,
  onChoose,
  onKey,
  scope,
  picking,
  onPicking,
  onPick,
  onAddList,
  deeds,
}: RowProps) {
  const d = useDraft();
  const drop = useDroppable({ id: row.id });
  const drag = useDraggable({ id: row.id, disabled: row.kind !== "step" });
  const problems =
    row.kind === "step" ? d.problems.filter((p) => p.where.kind === "step" && p.where.id === row.id) : [];
  const onPath = d.path
    ? row.kind === "list"
      ? d.path.lists.includes(row.id)
      : row.kind === "start" || d.path.steps.includes(row.id)
    : false;
  const Icon = row.kind === "step" ? ICONS[row.step.kind] : null;
  const requester = d.definition.starts[0]?.who;
  const asked = row.kind === "step" ? d.path?.asked[row.id] : undefined;
  return (
    <li
      ref={drop.setNodeRef}
      className={classes(drop.isOver && "border-b-2 border-moss")}
      style={{ paddingLeft: row.depth * 20 }}
    >
      <div
        id={`step-${row.id}`}
        tabIndex={0}
        role="group"
        aria-label={
          row.kind === "start"
            ? "1, start"
            : row.kind === "step"
              ? `${row.number}, ${verbOf(row.step.kind)}, ${row.step.name}`
              : `${row.number}, where this leads`
        }
        onKeyDown={onKey}
        onFocus={onChoose}
        onPointerDown={onChoose}
        className={classes(
          "group relative flex items-start gap-1.5 rounded-sm px-1.5 py-[2px]",
          row.kind !== "list" && "mt-1",
          chosen ? "bg-slate-wash" : "bg-ground hover:bg-sheet",
        )}
      >
        <button
          type="button"
          ref={drag.setNodeRef}
          {...drag.listeners}
          {...drag.attributes}
          tabIndex={-1}
          aria-label={`Drag ${row.number}`}
          className={classes("mt-1.5 -ml-1 cursor-grab text-line-strong", row.kind !== "step" && "invisible")}
        >
          <GripVertical size={13} aria-hidden />
        </button>
        <span className={classes("mt-[3px] flex min-w-10 shrink-0 justify-start pr-1.5")}>
          {row.kind === "list" ? (
            <span className={classes("pt-0.5 text-sm", onPath ? "font-medium text-moss" : "text-soft")}>
              {row.number}
            </span>
          ) : (
            <Pebble tone={onPath ? "here" : "plain"}>{row.number}</Pebble>
          )}
        </span>
        <div className="min-w-0 flex-1 leading-[1.75]">
          {row.kind === "start" && (
            <>
              <span className="font-medium">Start</span> ·{" "}
              {requester?.by === "everybody"
                ? "anybody"
                : requester?.by === "group"
                  ? `group ${requester.group}`
                  : requester?.by === "department"
                    ? requester.department
                    : "nobody"}{" "}
              fills in the form and sends it
            </>
          )}
          {row.kind === "step" && (
            <>
              {Icon && (
                <Icon
                  size={15}
                  strokeWidth={1.6}
                  aria-hidden
                  className="mr-1.5 inline-block align-[-2px] text-soft"
                />
              )}
              <span className="mr-1 font-medium">{verbOf(row.step.kind)}</span>
              <StepSentence step={row.step} scope={scope} />
              {asked && asked.people.length > 0 && (
                <span className="ml-2 text-sm text-moss">
                  {asked.people
                    .slice(0, 3)
                    .map((p) => d.factsData.people[p]?.name ?? p)
                    .join(", ")}
                  {asked.people.length > 3 ? ` and ${asked.people.length - 3} more` : ""}
                </span>
              )}
            </>
          )}
          {row.kind === "list" && <ListHead owner={row.owner} list={row.list} scope={scope} />}
          {problems.map((p, i) => (
            <p
              key={i}
              className={classes(
                "text-sm leading-snug",
                p.severity === "error" ? "text-brick" : "text-lichen",
              )}
            >
              {p.severity === "error" ? "Error: " : "Warning: "}
              {p.message}
              {p.mend && (
                <button type="button" className="ml-2 underline" onClick={() => d.edit(p.mend!.edit)}>
                  {p.mend.label}
                </button>
              )}
            </p>
          ))}
        </div>
        <span
          className={classes(
            "absolute top-0 right-0 flex items-center gap-0.5 rounded bg-inherit transition-opacity group-hover:opacity-100 group-focus-within:opacity-100",
            chosen || picking ? "opacity-100" : "opacity-0",
          )}
        >
          {onAddList && row.kind === "step" && ["decide", "choose", "together"].includes(row.step.kind) && (
            <Button small look="quiet" tabIndex={chosen ? 0 : -1} onClick={onAddList}>
              {row.step.kind === "decide" ? "+ answer" : row.step.kind === "choose" ? "+ way" : "+ branch"}
            </Button>
          )}
          {deeds && (
            <Popover
              width={190}
              align="end"
              trigger={
                <Button small look="quiet" tabIndex={chosen ? 0 : -1} aria-label={`More for ${row.number}`}>
                  …
                </Button>
              }
            >
              {(
                [
                  ["Up", deeds.up],
                  ["Down", deeds.down],
                  ["Into the step above", deeds.nest],
                  ["Out of its list", deeds.unnest],
                  ["Remove", deeds.remove],
                ] as const
              ).map(([name, act]) => (
                <button
                  key={name}
                  type="button"
                  className={classes(
                    "block w-full rounded px-2 py-1 text-left hover:bg-slate-wash",
                    name === "Remove" && "text-brick",
                  )}
                  onClick={() => act()}
                >
                  {name}
                </button>
              ))}
            </Popover>
          )}
          <KindPicker
            open={picking}
            onOpenChange={onPicking}
            onPick={onPick}
            trigger={
              <Button
                small
                look="quiet"
                tabIndex={chosen ? 0 : -1}
                aria-label={`Add a step after ${row.number}`}
              >
                <Plus size={14} aria-hidden />
              </Button>
            }
          />
        </span>
      </div>
    </li>
  );
}
