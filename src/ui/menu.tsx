"use client";
import { DropdownMenu as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface MenuItem {
  id: string;
  label: string;
  onPick(): void;
  /** Destructive. */
  bad?: true;
  disabled?: boolean;
}
/** Entries under a heading; without one they stand apart by a line. */
export interface MenuGroup {
  heading?: string;
  items: readonly MenuItem[];
}

/** A list of deeds behind one button: arrow keys, first letters and Escape as everywhere. */
export function Menu({
  trigger,
  groups,
  align = "end",
  onOpenChange,
}: {
  trigger: ReactNode;
  groups: readonly MenuGroup[];
  align?: "start" | "end";
  onOpenChange?(open: boolean): void;
}) {
  return (
    <Radix.Root modal={false} {...(onOpenChange ? { onOpenChange } : {})}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align={align}
          sideOffset={4}
          collisionPadding={12}
          className="z-[60] max-h-[min(70vh,var(--radix-dropdown-menu-content-available-height))] max-w-[min(26rem,calc(100vw-1.5rem))] min-w-52 overflow-y-auto rounded border border-line-strong bg-raised py-1 shadow-[0_2px_10px_rgb(0_0_0/0.12)]"
        >
          {groups
            .filter((g) => g.items.length > 0)
            .map((g, i) => (
              <Radix.Group key={i} className="border-line py-1 not-first:border-t">
                {g.heading && (
                  <Radix.Label className="px-3 pb-0.5 text-sm text-soft">{g.heading}</Radix.Label>
                )}
                {g.items.map((it) => (
                  <Radix.Item
                    key={it.id}
                    disabled={it.disabled === true}
                    onSelect={it.onPick}
                    className={`cursor-default px-3 py-1 outline-none select-none data-disabled:text-faint data-highlighted:bg-slate-wash ${it.bad ? "text-brick" : ""}`}
                  >
                    {it.label}
                  </Radix.Item>
                ))}
              </Radix.Group>
            ))}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
