import type { ReactNode } from "react";
import { classes } from "./classes";

/** What this is, its state, and the one main action. */
export function PageHeader({
  title,
  state,
  lead,
  action,
  above,
}: {
  title: ReactNode;
  state?: ReactNode;
  lead?: ReactNode;
  action?: ReactNode;
  above?: ReactNode;
}) {
  return (
    <header className="mb-5 flex flex-wrap items-end gap-x-4 gap-y-2">
      <div className="min-w-0 flex-1 basis-80">
        {above && <div className="mb-1 text-sm text-soft">{above}</div>}
        <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <h1 className="min-w-0 break-words">{title}</h1>
          {state}
        </div>
        {lead && <p className="mt-1.5 max-w-[70ch] text-soft">{lead}</p>}
      </div>
      {action && <div className="no-print flex flex-wrap gap-2">{action}</div>}
    </header>
  );
}

/** An empty place says what goes there and offers the action. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children?: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="border-t border-line py-8">
      <p className="font-serif text-lg">{title}</p>
      {children && <p className="mt-1 max-w-[60ch] text-soft">{children}</p>}
      {action && <div className="mt-3">{action}</div>}
    </div>
  );
}

const TONES = {
  plain: "border-line-strong text-soft",
  agree: "border-moss text-moss",
  refuse: "border-brick text-brick",
  soon: "border-lichen text-lichen bg-lichen-wash",
  late: "border-brick text-brick bg-brick-wash",
  info: "border-slate text-slate",
  stuck: "border-brick text-brick bg-brick-wash",
  quiet: "border-transparent text-soft",
} as const;
export type MarkTone = keyof typeof TONES;

/** A state as a word in a thin frame; colour only repeats what the word says. */
export function Mark({ tone = "plain", children }: { tone?: MarkTone; children: ReactNode }) {
  return (
    <span
      className={classes(
        "inline-block rounded-[3px] border px-1.5 text-sm leading-[1.45] whitespace-nowrap",
        TONES[tone],
      )}
    >
      {children}
    </span>
  );
}

/** A sentence about something that went wrong or needs knowing, with its way out. */
export function Banner({
  tone,
  children,
  id,
}: {
  tone: "info" | "bad" | "soon";
  children: ReactNode;
  id?: string;
}) {
  const look = {
    info: "bg-slate-wash border-slate",
    bad: "bg-brick-wash border-brick",
    soon: "bg-lichen-wash border-lichen",
  }[tone];
  return (
    <div
      id={id}
      role={tone === "bad" ? "alert" : "status"}
      className={classes("mb-4 border-l-[3px] px-3 py-2", look)}
    >
      {children}
    </div>
  );
}

export const Kbd = ({ children }: { children: string }) => (
  <kbd className="rounded-[3px] border border-line-strong bg-raised px-1 font-mono text-xs text-soft">
    {children}
  </kbd>
);
