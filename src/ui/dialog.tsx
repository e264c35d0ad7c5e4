"use client";
import { Dialog as Radix } from "radix-ui";
import { useRef, type ReactNode } from "react";

/** A small page over the page; Escape and a click outside close it. */
export function Dialog({
  open,
  onOpenChange,
  title,
  children,
  wide = false,
}: {
  open: boolean;
  onOpenChange(open: boolean): void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}) {
  // What had the focus gets it back: Radix gives it to a trigger, and these are opened from elsewhere.
  const before = useRef<Element | null>(null);
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Radix.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            before.current = document.activeElement;
          }}
          onCloseAutoFocus={(e) => {
            const back = before.current;
            if (!(back instanceof HTMLElement) || !back.isConnected) return;
            e.preventDefault();
            back.focus();
          }}
          className={`fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[calc(100vw-2rem)] -translate-x-1/2 overflow-y-auto rounded border border-line-strong bg-sheet p-5 ${wide ? "max-w-3xl" : "max-w-lg"}`}
        >
          <Radix.Title className="mb-3 font-serif text-xl font-semibold">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
