import { isHeading, stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { letter, listsOf, placesOf, type ProcessDefinition, type Step } from "@/core/route";

export interface MapNode {
  /** Of the step; of one in a procedure with those that hand to it before it ("s4~s1"). */
  id: string;
  /** The step of the sheet it stands for: of one in a procedure what hands to that. */
  row: string;
  /** Empty for a part, which is no step. */
  number: string;
  name: string;
  kind: Step["kind"] | "start";
  x: number;
  y: number;
  /** How many steps stand under it, and whether they are drawn; null where none do. */
  under: { steps: number; folded: boolean } | null;
}
export interface MapEdge {
  key: string;
  from: { x: number; y: number };
  to: { x: number; y: number };
  /** The list it stands for ("step/answer"), or "" for plain going on. */
  list: string;
  label: string;
  fromStep: string;
  toStep: string;
  back: boolean;
}
export interface MapDrawing {
  nodes: MapNode[];
  edges: MapEdge[];
  width: number;
  height: number;
}

export const COLUMN = 128;
export const MOST_COLUMN = 260;
export const ROW = 62;

const placesIn = (of: Route) => placesOf(of, KINDS);

interface Exit {
  x: number;
  y: number;
  step: string;
  list: string;
  label: string;
}

type Route = Pick<ProcessDefinition, "route">;

/** What of a route is drawn. */
export interface Folds {
  /** Ids of nodes whose steps are not drawn; of those that hand to a procedure: whose steps are. */
  turned: ReadonlySet<string>;
  /** Ids of parts that are folded on the sheet. */
  parts: ReadonlySet<string>;
  /** The route of a procedure that is live. */
  procedure(key: string): Route | null;
}
export const UNFOLDED: Folds = { turned: new Set(), parts: new Set(), procedure: () => null };

/** Between the ids of what hands to a procedure and of a step in it. */
const BETWEEN = "~";
/** Procedures in procedures that are drawn. */
const DEEPEST = 6;

const stepsIn = (steps: readonly Step[]): number =>
  steps.reduce(
    (n, s) => n + (isHeading(KINDS, s) ? 0 : 1) + listsOf(s, KINDS).reduce((m, l) => m + stepsIn(l.steps), 0),
    0,
  );

/** Places every step on a grid: lists run down, the lists of one step stand side by side. Drawn, never kept. */
export function mapLayout(definition: Route, folds: Folds = UNFOLDED): MapDrawing {
  const start = {
    id: "start",
    row: "start",
    number: "1",
    name: "Start",
    kind: "start" as const,
    under: null,
  };
  const nodes: MapNode[] = [{ ...start, x: 0, y: 0 }];
  const edges: MapEdge[] = [];
  const jumps: { from: MapNode; to: string }[] = [];
  const connect = (from: Exit, to: MapNode) =>
    edges.push({
      key: `${from.step}>${from.list}>${to.id}`,
      from: { x: from.x, y: from.y },
      to: { x: to.x, y: to.y },
      list: from.list,
      label: from.label,
      fromStep: from.step,
      toStep: to.id,
      back: false,
    });

  /**
   * Lays out a list from (x, y); gives its width in columns, the next free row, and its open ends.
   * @param within what tells steps of a procedure from others: the ids of what hands to it, and the row of the sheet
   */
  const layList = (
    steps: readonly Step[],
    x: number,
    y: number,
    entries: Exit[],
    within: { of: Route; ids: string; row: string | null; deep: number; ended: Exit[] },
  ): { width: number; y: number; exits: Exit[] } => {
    const places = placesIn(within.of);
    let width = 1;
    let ends = entries;
    let row = y;
    for (const step of steps) {
      const id = `${within.ids}${step.id}`;
      const lists = listsOf(step, KINDS);
      const heading = isHeading(KINDS, step);
      const folded = heading ? within.row === null && folds.parts.has(step.id) : folds.turned.has(id);
      if (heading && !folded) {
        // Nothing is drawn of it but what stands under it.
        const inside = lists.flatMap((l) => l.steps);
        const inner = layList(inside, x, row, ends, within);
        width = Math.max(width, inner.width);
        ({ y: row, exits: ends } = inner);
        continue;
      }
      const to = within.deep < DEEPEST ? stepKind(KINDS, step).calls?.to(step)?.procedure : undefined;
      const called = to === undefined ? null : folds.procedure(to);
      const steps = called ? stepsIn(called.route) : lists.reduce((n, l) => n + stepsIn(l.steps), 0);
      // Of a procedure the steps are drawn where somebody asks for them.
      const away = called ? !folded : folded;
      // Ways are what the map is about; rounds and branches, parts and procedures are something within it.
      const foldable = called || heading || stepKind(KINDS, step).lists?.sideBySide;
      const node: MapNode = {
        id,
        row: within.row ?? step.id,
        number: heading ? "" : places.get(step.id)!.number,
        under: foldable && steps > 0 ? { steps, folded: away } : null,
        name: step.name,
        kind: step.kind,
        x,
        y: row,
      };
      nodes.push(node);
      for (const e of ends) connect(e, node);
      const exit = stepKind(KINDS, step).exit(step);
      for (const to of stepKind(KINDS, step).mayGo?.(step) ?? [])
        jumps.push({ from: node, to: `${within.ids}${to}` });
      const plain: Exit = { x, y: row, step: id, list: "", label: "" };
      if (exit) {
        ends = [];
        // What ends a procedure goes on behind what handed to it.
        if ("ends" in exit) within.ended.push(plain);
      } else if (called && !away) {
        const ended: Exit[] = [];
        const of = { of: called, ids: `${id}${BETWEEN}`, row: node.row, deep: within.deep + 1, ended };
        const inner = layList(called.route, x + 1, row + 1, [plain], of);
        width = Math.max(width, inner.width + 1);
        ends = [...inner.exits, ...ended];
        row = inner.y - 1;
      } else {
        if (lists.length === 0 || away) ends = [plain];
        else {
          let column = x;
          let bottom = row + 1;
          const open: Exit[] = [];
          // What is gone through late is left by nobody who goes on: the way leads past it.
          const late = stepKind(KINDS, step).late?.(step) ?? null;
          if (late !== null) open.push(plain);
          // What goes straight on keeps the column; lists with steps of their own stand beside it.
          const straight = late !== null || lists.some((l) => l.steps.length === 0 && !l.back);
          if (straight) column = x + 1;
          lists.forEach((l, k) => {
            const exit: Exit = {
              x,
              y: row,
              step: id,
              list: `${id}/${l.id}`,
              label: l.name || letter(k),
            };
            if (l.back) return;
            if (l.steps.length === 0) {
              if (l.id !== late) open.push(exit);
              return;
            }
            const inner = layList(l.steps, column, row + 1, [exit], within);
            column += inner.width;
            bottom = Math.max(bottom, inner.y);
            if (l.id !== late) open.push(...inner.exits);
          });
          width = Math.max(width, column - x);
          ends = open;
          row = bottom - 1;
        }
      }
      row += 1;
    }
    return { width, y: row, exits: ends };
  };
  const first = [{ x: 0, y: 0, step: "start", list: "", label: "" }];
  const all = layList(definition.route, 0, 1, first, {
    of: definition,
    ids: "",
    row: null,
    deep: 0,
    ended: [],
  });
  for (const j of jumps) {
    const to = nodes.find((n) => n.id === j.to);
    if (to)
      edges.push({
        key: `${j.from.id}>>${to.id}`,
        from: j.from,
        to,
        list: "",
        label: "",
        fromStep: j.from.id,
        toStep: to.id,
        back: true,
      });
  }
  return { nodes, edges, width: Math.max(...nodes.map((n) => n.x)) + 1, height: all.y };
}
