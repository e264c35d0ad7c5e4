import { isHeading, stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { letter, listsOf, placesOf, type ProcessDefinition, type Step } from "@/core/route";

export interface MapNode {
  id: string;
  number: string;
  name: string;
  kind: Step["kind"] | "start";
  x: number;
  y: number;
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

interface Exit {
  x: number;
  y: number;
  step: string;
  list: string;
  label: string;
}

/** Places every step on a grid: lists run down, the lists of one step stand side by side. Drawn, never kept. */
export function mapLayout(definition: Pick<ProcessDefinition, "route">): MapDrawing {
  const places = placesOf(definition, KINDS);
  const nodes: MapNode[] = [{ id: "start", number: "1", name: "Start", kind: "start", x: 0, y: 0 }];
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

  /** Lays out a list from (x, y); gives its width in columns, the next free row, and its open ends. */
  const layList = (
    steps: readonly Step[],
    x: number,
    y: number,
    entries: Exit[],
  ): { width: number; y: number; exits: Exit[] } => {
    let width = 1;
    let ends = entries;
    let row = y;
    for (const step of steps) {
      if (isHeading(KINDS, step)) {
        // Nothing is drawn of it but what stands under it.
        const inner = layList(
          listsOf(step, KINDS).flatMap((l) => l.steps),
          x,
          row,
          ends,
        );
        width = Math.max(width, inner.width);
        ({ y: row, exits: ends } = inner);
        continue;
      }
      const node: MapNode = {
        id: step.id,
        number: places.get(step.id)!.number,
        name: step.name,
        kind: step.kind,
        x,
        y: row,
      };
      nodes.push(node);
      for (const e of ends) connect(e, node);
      const exit = stepKind(KINDS, step).exit(step);
      for (const to of stepKind(KINDS, step).mayGo?.(step) ?? []) jumps.push({ from: node, to });
      if (exit) ends = [];
      else {
        const lists = listsOf(step, KINDS);
        if (lists.length === 0) ends = [{ x, y: row, step: step.id, list: "", label: "" }];
        else {
          let column = x;
          let bottom = row + 1;
          const open: Exit[] = [];
          // What goes straight on keeps the column; lists with steps of their own stand beside it.
          const straight = lists.some((l) => l.steps.length === 0 && !l.back);
          if (straight) column = x + 1;
          lists.forEach((l, k) => {
            const exit: Exit = {
              x,
              y: row,
              step: step.id,
              list: `${step.id}/${l.id}`,
              label: l.name || letter(k),
            };
            if (l.back) return;
            if (l.steps.length === 0) {
              open.push(exit);
              return;
            }
            const inner = layList(l.steps, column, row + 1, [exit]);
            column += inner.width;
            bottom = Math.max(bottom, inner.y);
            open.push(...inner.exits);
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
  const all = layList(definition.route, 0, 1, [{ x: 0, y: 0, step: "start", list: "", label: "" }]);
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
