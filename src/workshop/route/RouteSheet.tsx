"use client";
import { Plus } from "lucide-react";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import {
  listsOf,
  placesOf,
  RouteScopes,
  type Edit,
  type HeldList,
  type Step,
  type StepKind,
} from "@/core/route";
import { heldBy } from "@/core/route";
import { stepKind } from "@/core/kinds";
import type { Scope } from "@/core/expression";
import { KINDS } from "@/kinds";
import { Button, Kbd } from "@/ui";
import { PathMap } from "../map/PathMap";
import { newId, SheetDrag, useDraft } from "../parts";
import { freshCopy } from "./freshCopy";
import { KindPicker } from "./KindPicker";
import { LadderRows } from "./LadderRows";
import { placeAfter, type Place } from "./placeAfter";
import {
  dropped,
  dropWords,
  listsAbove,
  listUpOrDown,
  nested,
  unnested,
  upOrDown,
  type StepRow,
} from "./routeMoves";
import { RouteRow } from "./RouteRow";
import type { RowDeeds } from "./rowDeeds";
import { sheetRows, type SheetRow } from "./rows";
import { useSampleValues } from "./useSampleValues";
import { WhoIsAskedWhen } from "./WhoIsAskedWhen";

const END = "end";
const rowElement = (id: string) => document.getElementById(`step-${id}`);

/** The route as a numbered list of sentences, with the path map drawn from it. */
export function RouteSheet() {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const edit = useDraft((d) => d.edit);
  const [chosen, setChosen] = useState<string | null>(null);
  const [picking, setPicking] = useState<string | null>(null);
  const [noting, setNoting] = useState<{ row: string; what: "note" | "stage" } | null>(null);
  const focusNext = useRef<string | null>(null);
  const cut = useRef<Step | null>(null);
  /** The step made last, until somebody goes on to another row or changes it: it complains of nothing yet. */
  const [fresh, setFresh] = useState<Step | null>(null);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const rows = useMemo(() => sheetRows(definition, folded), [definition, folded]);
  const { fields, route } = definition;
  const scopes = useMemo(
    () => new RouteScopes({ ...definition, fields, route }, { registers, kinds: KINDS }),
    [definition, fields, route, registers],
  );
  const scopeOf = useSameNames(scopes);
  const [showsValues, setShowsValues] = useState(false);
  const values = useSampleValues(showsValues);
  const rowOf = (id: string) => rows.find((r) => r.id === id);
  /** Goes to the row of a step, also where it stands under a heading that is folded. */
  const reveal = (id: string) => {
    const owners = placesOf(definition, KINDS).get(id)?.owners ?? [];
    setFolded((all) => new Set([...all].filter((x) => !owners.some((o) => o.step.id === x))));
    focusNext.current = id;
    rowElement(id)?.focus();
  };
  const stepOf = (id: string) => rows.find((r): r is StepRow => r.kind === "step" && r.id === id);

  useEffect(() => {
    // A new row may come a moment later than what else changed.
    const element = focusNext.current === null ? null : rowElement(focusNext.current);
    if (!element) return;
    focusNext.current = null;
    element.focus();
  });
  useEffect(() => {
    const id = /^#step-(.+)$/.exec(location.hash)?.[1];
    if (id) {
      setChosen(id);
      rowElement(id)?.focus();
    }
  }, []);

  // What rows are handed stays the same object; it looks up the sheet as it is when something is done.
  const sheet = useRef({ rows, route });
  useEffect(() => {
    sheet.current = { rows, route };
  });
  const { add, deeds } = useMemo(() => {
    const taken = (id: string) => {
      const all = placesOf(sheet.current, KINDS);
      const isList = (l: { id: string }) => l.id === id || l.id.startsWith(`${id}-`);
      return all.has(id) || [...all.values()].some((p) => listsOf(p.step, KINDS).some(isList));
    };
    const put = (step: Step, place: Place) => {
      if (!edit({ op: "step.add", ...place, step })) return;
      setChosen(step.id);
      setFresh(step);
      focusNext.current = step.id;
    };
    const addStep = (place: Place, kind: StepKind) => put(KINDS.steps[kind].blank(newId(kind, taken)), place);
    const move = (row: SheetRow, e: Edit | null) => {
      if (e && edit(e)) focusNext.current = row.id;
    };
    const onStep = (work: (row: StepRow) => void) => (row: SheetRow) => {
      if (row.kind === "step") work(row);
    };
    const remove = (row: SheetRow) => {
      const at = sheet.current.rows.findIndex((r) => r.id === row.id);
      const e = removal(row);
      if (e && edit(e)) focusNext.current = sheet.current.rows[at - 1]?.id ?? null;
    };
    const upDown = (row: SheetRow, by: -1 | 1) => {
      if (row.kind === "list") return move(row, listUpOrDown(row, by));
      if (row.kind === "step") move(row, upOrDown(sheet.current.rows, sheet.current.route, row, by));
    };
    const made: RowDeeds = {
      choose: (row) => {
        setChosen(row.id);
        setFresh((f) => (f?.id === row.id ? f : null));
      },
      picking: (row, open) => setPicking(open ? row.id : null),
      noting: (row, what) => setNoting(what && { row: row.id, what }),
      fold: (row, away) =>
        setFolded((all) => {
          const next = new Set(all);
          if (away) next.add(row.id);
          else next.delete(row.id);
          return next;
        }),
      pick: (row, kind) => addStep(placeAfter(row), kind),
      addList: onStep(({ step }) => {
        const { lists } = stepKind(KINDS, step);
        if (!lists) return;
        const held = heldBy(step, lists);
        if (held.length >= (lists.most ?? Infinity)) return;
        const list = lists.blank(newId(`${step.id}-way`, taken), held.length) as unknown as HeldList;
        edit({ op: "list.add", step: step.id, after: held[lists.at(step) - 1]?.id ?? null, list });
      }),
      up: (row) => upDown(row, -1),
      down: (row) => upDown(row, 1),
      nest: (row, list) => {
        if (row.kind === "step") move(row, nested(sheet.current.route, row, list));
      },
      places: (row) => (row.kind === "step" ? listsAbove(sheet.current.route, row) : []),
      unnest: onStep((row) => move(row, unnested(sheet.current.rows, row))),
      remove,
      key: (e, row) => {
        if (e.target !== e.currentTarget) return;
        const work = keyDeed(e, row, made, {
          rows: sheet.current.rows,
          route: sheet.current.route,
          copy: (step) => {
            cut.current = step;
            void navigator.clipboard?.writeText(JSON.stringify(step)).catch(() => undefined);
          },
          paste: cut.current ? () => put(freshCopy(cut.current!, taken), placeAfter(row)) : null,
        });
        if (!work) return;
        e.preventDefault();
        work();
      },
    };
    return { add: addStep, deeds: made };
  }, [edit]);

  return (
    <Group orientation="horizontal" className="min-h-[60vh]">
      <Panel defaultSize="68%" minSize="45%">
        <div className="mb-1.5 flex flex-wrap items-center gap-2 pr-3">
          <KindPicker
            open={picking === END}
            onOpenChange={(o) => setPicking(o ? END : null)}
            onPick={(k) => {
              const row = rows.find((r) => r.id === chosen);
              add(
                row ? placeAfter(row) : { to: { owner: null, list: null }, after: route.at(-1)?.id ?? null },
                k,
              );
            }}
            trigger={
              <Button small>
                <Plus size={14} aria-hidden /> Step
              </Button>
            }
          />
          <label className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="size-4"
              checked={showsValues}
              onChange={(e) => setShowsValues(e.target.checked)}
            />
            Values after each step
          </label>
          <span role="status" className="text-sm text-soft">
            {values.said}
          </span>
          <WhoIsAskedWhen />
          <a className="link text-sm" href={`/api/workshop/${definition.key}/pdf`} download>
            As PDF
          </a>
          <span className="ml-auto text-sm text-soft">
            <Kbd>Enter</Kbd> new row · <Kbd>Tab</Kbd> in, <Kbd>Shift Tab</Kbd> out · <Kbd>Alt ↑↓</Kbd> move ·{" "}
            <Kbd>F2</Kbd> name
          </span>
        </div>
        <SheetDrag
          id="route"
          nameOf={(id) => {
            const row = stepOf(id);
            return row ? `${row.number} ${row.step.name}` : id;
          }}
          place={(id, on) => {
            const [row, target] = [stepOf(id), rowOf(on)];
            return row && target ? dropWords(row, target) : null;
          }}
          onDrop={(id, on) => {
            const [row, target] = [stepOf(id), rowOf(on)];
            const e = row && target ? dropped(row, target) : null;
            if (e && edit(e)) focusNext.current = id;
          }}
        >
          <ol aria-label="Route" className="max-h-[calc(100vh-13.5rem)] overflow-auto pr-3 pb-24">
            {rows.map((row) => (
              <RouteRow
                key={row.id}
                row={row}
                chosen={chosen === row.id}
                picking={picking === row.id}
                noting={noting?.row === row.id ? noting.what : null}
                fresh={fresh?.id === row.id ? fresh : null}
                scope={scopeOf(row)}
                after={row.kind === "step" ? values.of(row.id) : null}
                deeds={deeds}
              />
            ))}
            {route.length === 0 && (
              <li className="py-5 pl-2">
                <p className="font-serif text-lg">No steps yet</p>
                <p className="text-soft">
                  What happens first, once the form is sent? Press Enter on the row above, or use the button.
                </p>
              </li>
            )}
            <LadderRows />
          </ol>
        </SheetDrag>
      </Panel>
      <Separator
        className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
        aria-label="Width of the path map"
      />
      <Panel minSize="20%">
        <PathMap
          chosen={chosen}
          parts={folded}
          onUnfoldPart={(part) => setFolded((f) => new Set([...f].filter((id) => id !== part)))}
          onChoose={(id) => {
            setChosen(id);
            reveal(id);
          }}
        />
      </Panel>
    </Group>
  );
}

function removal(row: SheetRow): Edit | null {
  switch (row.kind) {
    case "start":
      return null;
    case "step":
      return { op: "step.remove", id: row.id };
    case "list":
      return { op: "list.remove", step: row.owner.id, list: row.list };
  }
}

/** Names of the sheet as it was that are kept; as it is it has one set for each of its rounds. */
const MOST_SCOPES = 100;

/** The same object as long as it holds the same names: every row hangs on it. */
function useSameNames(scopes: RouteScopes): (row: SheetRow) => Scope {
  const [known] = useState(() => new Map<string, Scope>());
  return useMemo(() => {
    const same = new Map<Scope, Scope>();
    const kept = (scope: Scope): Scope => {
      let first = same.get(scope);
      if (first) return first;
      const text = JSON.stringify(scope);
      first = known.get(text) ?? scope;
      if (known.size > MOST_SCOPES) known.clear();
      known.set(text, first);
      same.set(scope, first);
      return first;
    };
    return (row) => {
      if (row.kind === "start") return kept(scopes.at(null));
      // What stands at the head of a list is its step's own.
      return kept(scopes.at(row.kind === "step" ? row.id : row.owner.id));
    };
  }, [scopes, known]);
}

interface Keyed {
  rows: readonly SheetRow[];
  route: readonly Step[];
  copy(step: Step): void;
  paste: (() => void) | null;
}

/** What a key does on a row; null where it is not the sheet's. */
function keyDeed(e: KeyboardEvent, row: SheetRow, deeds: RowDeeds, at: Keyed): (() => void) | null {
  const ctrl = e.ctrlKey || e.metaKey;
  if (e.altKey && row.kind !== "start") {
    if (e.key === "ArrowUp") return () => deeds.up(row);
    if (e.key === "ArrowDown") return () => deeds.down(row);
  }
  if (ctrl && row.kind === "step") {
    if (e.key === "c") return () => at.copy(row.step);
    if (e.key === "x")
      return () => {
        at.copy(row.step);
        deeds.remove(row);
      };
  }
  if (ctrl && e.key === "v") return at.paste;
  if (ctrl || e.altKey) return null;
  const here = at.rows.findIndex((r) => r.id === row.id);
  const focus = (by: number) => () => {
    const next = at.rows[here + by];
    if (next) rowElement(next.id)?.focus();
  };
  const under = row.kind === "step" ? row.under : undefined;
  if (under && e.key === "ArrowLeft") return () => deeds.fold(row, true);
  if (under && e.key === "ArrowRight") return () => deeds.fold(row, false);
  switch (e.key) {
    case "Enter":
    case "/":
      return () => deeds.picking(row, true);
    case "ArrowDown":
      return focus(1);
    case "ArrowUp":
      return focus(-1);
    case "Delete":
    case "Backspace":
      return row.kind === "start" ? null : () => deeds.remove(row);
    case "Tab": {
      // Tab nests only where that is possible; anywhere else it leaves the row as keyboard users expect.
      if (row.kind !== "step") return null;
      if (e.shiftKey) return row.ref.owner ? () => deeds.unnest(row) : null;
      return listsAbove(at.route, row).length > 0 ? () => deeds.nest(row) : null;
    }
    case "F2": {
      if (e.shiftKey) return row.kind === "step" ? () => deeds.noting(row, "note") : null;
      const element = e.currentTarget as HTMLElement;
      return () => element.querySelector<HTMLElement>("input")?.focus();
    }
    default:
      return null;
  }
}
