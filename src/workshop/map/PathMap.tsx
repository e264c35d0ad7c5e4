"use client";
import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import { Button } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { COLUMN, mapLayout, MOST_COLUMN, ROW, type MapEdge, type MapNode } from "./mapLayout";
import { wrapped } from "./wrapped";

const STONES = [
  "M-17,-2 C-17,-12 -6,-14 4,-13 C13,-12 18,-7 17,2 C16,11 7,13 -3,13 C-12,13 -17,8 -17,-2Z",
  "M-16,1 C-17,-9 -9,-13 1,-13 C11,-13 17,-8 17,0 C17,9 10,13 0,13 C-10,13 -15,10 -16,1Z",
  "M-17,0 C-16,-10 -8,-12 2,-13 C12,-13 16,-5 17,3 C16,11 8,12 -1,13 C-11,13 -17,9 -17,0Z",
];
/** Colours of a stone and of the number on it. */
const STONE = { walked: ["var(--moss)", "var(--on-moss)"], plain: ["var(--pebble)", "var(--ink)"] };
const CHOSEN = ["var(--slate)", "var(--sheet)"];
const PAD = 40;
/** Between a stone and what stands beside it; about the width of a letter; lines of a name. */
const LABEL_X = 21;
const LETTER = 5.9;
const LINE = 12.5;
const MOST_LINES = 4;

interface Props {
  chosen: string | null;
  onChoose(id: string): void;
  /** Parts that are folded on the sheet. */
  parts: ReadonlySet<string>;
  onUnfoldPart(id: string): void;
}

/**
 * Pebbles joined by worn paths, drawn from the sheet; the sample's way inked. What stands under a step folds away, and the
 * steps of a procedure are drawn where somebody unfolds what hands to it.
 */
export function PathMap({ chosen, onChoose, parts, onUnfoldPart }: Props) {
  const d = useDraft();
  const [zoom, setZoom] = useState(1);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const { procedures } = d.office;
  const map = useMemo(() => {
    const procedure = (key: string) => procedures.find((p) => p.key === key)?.definition ?? null;
    return mapLayout(d.definition, { turned, parts, procedure });
  }, [d.definition, procedures, turned, parts]);
  const turn = (n: MapNode) => {
    if (parts.has(n.id)) return onUnfoldPart(n.id);
    setTurned((t) => (t.has(n.id) ? new Set([...t].filter((id) => id !== n.id)) : new Set([...t, n.id])));
  };
  const walked = new Set(["start", ...(d.path?.steps ?? [])]);
  const lists = new Set(d.path?.lists ?? []);
  const isWalked = (e: MapEdge) =>
    walked.has(e.fromStep) && walked.has(e.toStep) && (e.list === "" || lists.has(e.list));
  const frame = useRef<HTMLDivElement>(null);
  const room = useWidth(frame);
  // A wide window gives its room to the names.
  const column = Math.min(MOST_COLUMN, Math.max(COLUMN, (room / zoom - PAD - 20) / map.width));
  const at = (p: { x: number; y: number }) => ({ x: PAD + p.x * column, y: 26 + p.y * ROW });
  const width = PAD + map.width * column;
  const height = 26 + map.height * ROW + 10;
  const curve = (e: MapEdge): string => {
    const a = at(e.from);
    const b = at(e.to);
    if (e.back) return `M${a.x - 16},${a.y} C${a.x - 44},${a.y} ${b.x - 44},${b.y} ${b.x - 18},${b.y}`;
    const y1 = a.y + 13;
    const y2 = b.y - 14;
    if (a.x === b.x) return `M${a.x},${y1} L${b.x},${y2}`;
    // Below the stone and across where it branches off, so that no name is crossed; down first where it comes back.
    return a.x < b.x
      ? `M${a.x},${y1} C${a.x},${a.y + ROW - 26} ${b.x},${a.y + 22} ${b.x},${Math.min(y2, a.y + ROW - 14)} L${b.x},${y2}`
      : `M${a.x},${y1} C${a.x},${y2 - 8} ${a.x - 20},${y2 - 6} ${b.x + 4},${y2}`;
  };
  return (
    <section aria-label="Path map" className="flex h-full flex-col pl-4">
      <div className="mb-2 flex items-center gap-1 text-sm text-soft">
        <span className="mr-auto">
          {d.path ? "Inked: the sample’s way when everybody agrees" : "Keep a sample to see its way"}
        </span>
        <Button
          small
          look="quiet"
          aria-label="Smaller"
          onClick={() => setZoom((z) => Math.max(0.5, z - 0.15))}
        >
          −
        </Button>
        <Button
          small
          look="quiet"
          aria-label="Larger"
          onClick={() => setZoom((z) => Math.min(1.6, z + 0.15))}
        >
          +
        </Button>
      </div>
      <div
        ref={frame}
        className="max-h-[calc(100vh-13.5rem)] flex-1 overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="Drawing of the route"
      >
        <svg
          width={width * zoom}
          height={height * zoom}
          viewBox={`0 0 ${width} ${height}`}
          role="group"
          aria-label="Steps"
        >
          {map.edges.map((e) => (
            <path
              key={e.key}
              d={curve(e)}
              fill="none"
              stroke={isWalked(e) ? "var(--moss)" : "var(--line-strong)"}
              strokeWidth={isWalked(e) ? 3 : 2}
              strokeDasharray={e.back ? "2 5" : "1 6"}
              strokeLinecap="round"
              {...(isWalked(e) ? { strokeDasharray: "none" } : {})}
            />
          ))}
          {map.nodes.map((n, i) => {
            const p = at(n);
            const inside = n.row !== n.id;
            const [stone, ink] = chosen === n.id ? CHOSEN : STONE[walked.has(n.id) ? "walked" : "plain"];
            return (
              <g
                key={n.id}
                transform={`translate(${p.x},${p.y})`}
                role="button"
                tabIndex={-1}
                className="cursor-pointer"
                onClick={() => onChoose(n.row)}
              >
                <path
                  d={STONES[i % STONES.length]}
                  fill={stone}
                  {...(inside ? { stroke: "var(--line-strong)", strokeDasharray: "3 3" } : {})}
                />
                <text
                  textAnchor="middle"
                  y={4}
                  fontSize={n.number.length > 4 ? 9 : 12}
                  fontWeight={600}
                  fill={ink}
                >
                  {n.number || "…"}
                </text>
                <Label name={n.name} letters={Math.floor((column - LABEL_X - 24) / LETTER)} />
              </g>
            );
          })}
          {map.nodes.map((n) => n.under && <Fold key={n.id} of={n} at={at(n)} onTurn={() => turn(n)} />)}
        </svg>
      </div>
    </section>
  );
}

/** Folds away what stands under a step, or draws it. */
function Fold({ of, at, onTurn }: { of: MapNode; at: { x: number; y: number }; onTurn(): void }) {
  const { steps, folded } = of.under!;
  /** Room for the number of steps that are not drawn. */
  const more = folded ? 2 + 6 * String(steps).length : 0;
  return (
    <g
      transform={`translate(${at.x + 13},${at.y + 13})`}
      role="button"
      tabIndex={0}
      aria-expanded={!folded}
      aria-label={`${folded ? "Draw" : "Fold away"} the ${steps} ${steps === 1 ? "step" : "steps"} of ${of.name}`}
      className="cursor-pointer"
      onClick={onTurn}
      onKeyDown={(e) => {
        if (e.key !== "Enter" && e.key !== " ") return;
        e.preventDefault();
        onTurn();
      }}
    >
      <rect x={-12} y={-12} width={24 + more} height={24} fill="transparent" />
      <rect
        x={-7}
        y={-7}
        width={14 + more}
        height={14}
        rx={7}
        fill="var(--sheet)"
        stroke="var(--line-strong)"
      />
      <path d={folded ? "M-3.5,0 H3.5 M0,-3.5 V3.5" : "M-3.5,0 H3.5"} stroke="var(--ink)" strokeWidth={1.4} />
      {folded && (
        <text x={6} y={3.5} fontSize={10} fill="var(--ink)">
          {steps}
        </text>
      )}
    </g>
  );
}

/** A name beside its stone, in as many lines as it takes. */
function Label({ name, letters }: { name: string; letters: number }) {
  const lines = wrapped(name, letters, MOST_LINES);
  return (
    <text
      fontSize={11}
      fill="var(--ink)"
      stroke="var(--ground)"
      strokeWidth={4}
      paintOrder="stroke"
      y={4 - ((lines.length - 1) * LINE) / 2}
    >
      <title>{name}</title>
      {lines.map((l, i) => (
        <tspan key={i} x={LABEL_X} dy={i === 0 ? 0 : LINE}>
          {l}
        </tspan>
      ))}
    </text>
  );
}

function useWidth(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!of.current) return;
    const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
    watch.observe(of.current);
    return () => watch.disconnect();
  }, [of]);
  return width;
}
