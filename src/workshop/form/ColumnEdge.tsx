"use client";
import { useRef } from "react";
import { clamped, WIDTH_LIMITS } from "./sheetColumns";

/** Pixels an arrow key moves it. */
const STEP_PX = 16;

/** The edge of a column, drawn by the pointer or moved by arrow keys; twice pressed, or Home, it is as it was at first. */
export function ColumnEdge({ says, onWidth }: { says: string; onWidth(px: number | null): void }) {
  const from = useRef<{ x: number; width: number } | null>(null);
  const widthOf = (edge: HTMLElement) => edge.closest("th")!.getBoundingClientRect().width;
  return (
    // A separator that has the focus and a value is a control (WAI-ARIA 1.2, separator).
    <span
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${says}`}
      aria-valuemin={WIDTH_LIMITS.least}
      aria-valuemax={WIDTH_LIMITS.most}
      aria-valuenow={WIDTH_LIMITS.least}
      tabIndex={0}
      className="absolute inset-y-0 right-0 w-2 cursor-col-resize touch-none border-r-2 border-transparent hover:border-line-strong focus-visible:border-slate"
      onFocus={(e) => e.currentTarget.setAttribute("aria-valuenow", `${clamped(widthOf(e.currentTarget))}`)}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
        from.current = { x: e.clientX, width: widthOf(e.currentTarget) };
      }}
      onPointerMove={(e) => {
        const at = from.current;
        if (at && Math.abs(e.clientX - at.x) > 2) onWidth(clamped(at.width + e.clientX - at.x));
      }}
      onPointerUp={() => (from.current = null)}
      onPointerCancel={() => (from.current = null)}
      onDoubleClick={() => onWidth(null)}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -STEP_PX, ArrowRight: STEP_PX }[e.key];
        if (by === undefined && e.key !== "Home") return;
        e.preventDefault();
        const px = by === undefined ? null : clamped(widthOf(e.currentTarget) + by);
        onWidth(px);
        if (px !== null) e.currentTarget.setAttribute("aria-valuenow", `${px}`);
      }}
    />
  );
}
