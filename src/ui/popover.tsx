"use client";
import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";

export function Popover({
  trigger,
  children,
  open,
  onOpenChange,
  align = "start",
  width = 320,
  keepsFocus,
}: {
  trigger: ReactNode;
  children: ReactNode;
  open?: boolean;
  onOpenChange?(open: boolean): void;
  align?: "start" | "end" | "center";
  width?: number;
  /** Asked when it closes: true leaves the focus where it is by then instead of giving it back to the trigger. */
  keepsFocus?(): boolean;
}) {
  return (
    <Radix.Root {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align={align}
          sideOffset={4}
          collisionPadding={12}
          style={{ width }}
          onCloseAutoFocus={(e) => {
            if (keepsFocus?.()) e.preventDefault();
          }}
          className="z-[60] max-h-[min(70vh,var(--radix-popover-content-available-height))] max-w-[calc(100vw-1.5rem)] overflow-y-auto rounded border border-line-strong bg-raised p-3 shadow-[0_2px_10px_rgb(0_0_0/0.12)]"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
export const PopoverClose = Radix.Close;
