"use client";
import { useRouter } from "next/navigation";
import { useRef } from "react";
import { WIDTHS, widenedView } from "./columnWidths";

/**
 * The edge of a column, to be drawn by the pointer: twice pressed it is as wide as it needs. Keys have the same under
 * View…, so that nobody has to pass an edge for each column on the way through the head.
 */
export function WidthGrip(p: { register: string; column: string; view: string }) {
  const router = useRouter();
  const from = useRef<{ x: number; width: number; th: HTMLElement } | null>(null);
  const keep = (px: number | null) =>
    router.replace(`/registers/${p.register}?${widenedView(p.view, p.column, px)}`, { scroll: false });
  return (
    <span
      aria-hidden
      data-grip={p.column}
      className="absolute inset-y-0 right-0 w-2 cursor-col-resize touch-none border-r-2 border-transparent hover:border-line-strong"
      onPointerDown={(e) => {
        const th = e.currentTarget.closest("th");
        if (!th || e.button !== 0) return;
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
        from.current = { x: e.clientX, width: th.getBoundingClientRect().width, th };
      }}
      onPointerMove={(e) => {
        const at = from.current;
        if (!at) return;
        const width = Math.max(at.width + e.clientX - at.x, WIDTHS.least);
        at.th.style.width = at.th.style.minWidth = `${width}px`;
      }}
      onPointerUp={(e) => {
        const at = from.current;
        from.current = null;
        if (at && Math.abs(e.clientX - at.x) > 2) keep(at.width + e.clientX - at.x);
      }}
      onPointerCancel={() => (from.current = null)}
      onDoubleClick={() => keep(null)}
    />
  );
}
