"use client";
import { Redo2, Undo2 } from "lucide-react";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useEffect, type ReactNode } from "react";
import { Button, classes, Mark, Popover, PopoverClose } from "@/ui";
import { Settle } from "./Settle";
import { SampleBar } from "./SampleBar";
import { useDraft } from "./DraftProvider";
import { problemPlace } from "./problemPlace";

const SHEETS = [
  ["form", "Form sheet"],
  ["route", "Route sheet"],
  ["tables", "Tables"],
  ["letters", "Letters"],
  ["templates", "Templates"],
  ["about", "About"],
  ["release", "Release"],
] as const;

/** Around every sheet of a process: its name and state, undo, the sheets, problems, the sample bar. */
export function WorkshopFrame({ children }: { children: ReactNode }) {
  const d = useDraft();
  const path = usePathname();
  const base = `/workshop/${d.definition.key}`;
  const errors = d.problems.filter((p) => p.severity === "error").length;
  const { undo, redo } = d;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey) return;
      const target = e.target as HTMLElement;
      // While somebody types, undo belongs to the text they type.
      if (
        /^(INPUT|TEXTAREA)$/.test(target.tagName) &&
        (target as HTMLInputElement).value !== (target as HTMLInputElement).defaultValue &&
        target.matches(":focus") &&
        target.dataset["sheet"] === undefined
      )
        return;
      if (e.key.toLowerCase() === "z") {
        e.preventDefault();
        if (e.shiftKey) redo();
        else undo();
      }
      if (e.key.toLowerCase() === "y") {
        e.preventDefault();
        redo();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
  return (
    <div>
      <header className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="min-w-0 flex-1 basis-72">
          <p className="text-sm text-soft">
            <Link className="link" href="/workshop">
              Workshop
            </Link>
          </p>
          <div className="flex flex-wrap items-baseline gap-x-3">
            <h1>{d.definition.name || "Without a name"}</h1>
            <Mark>draft</Mark>
            <span className="text-sm text-soft">{d.live ? `${d.live} is live` : "nothing is live yet"}</span>
          </div>
        </div>
        <span role="status" className="text-sm text-soft">
          {d.saving}
        </span>
        <div className="flex items-center gap-1.5">
          <Button
            small
            look="quiet"
            disabled={!d.canUndo}
            onClick={undo}
            title="Undo (Ctrl Z)"
            aria-label="Undo"
          >
            <Undo2 size={16} aria-hidden />
          </Button>
          <Button
            small
            look="quiet"
            disabled={!d.canRedo}
            onClick={redo}
            title="Redo (Ctrl Shift Z)"
            aria-label="Redo"
          >
            <Redo2 size={16} aria-hidden />
          </Button>
          <ProblemList />
          <Link
            href={`${base}/release`}
            className={classes(
              "inline-flex min-h-[34px] items-center rounded px-3.5 font-medium no-underline",
              errors > 0 ? "border border-line-strong bg-raised" : "bg-moss text-on-moss hover:bg-moss-deep",
            )}
          >
            Release…
          </Link>
        </div>
      </header>
      <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-line xl:flex-nowrap">
        <nav aria-label="Sheets" className="flex shrink-0 gap-4">
          {SHEETS.map(([key, name]) => {
            const here = path.endsWith(`/${key}`);
            return (
              <Link
                key={key}
                href={`${base}/${key}`}
                aria-current={here ? "page" : undefined}
                className={classes(
                  "-mb-px border-b-2 py-1.5 no-underline",
                  here ? "border-moss font-medium" : "border-transparent text-soft hover:text-ink",
                )}
              >
                {name}
              </Link>
            );
          })}
        </nav>
        <SampleBar />
      </div>
      {[
        { text: d.said, role: "alert", look: "border-brick bg-brick-wash" },
        { text: d.told, role: "status", look: "border-slate bg-slate-wash" },
      ].map(
        ({ text, role, look }) =>
          text && (
            <div
              key={role}
              role={role}
              className={classes("mb-3 flex items-start gap-3 border-l-[3px] px-3 py-1.5", look)}
            >
              <span className="flex-1">{text}</span>
              <button type="button" className="underline" onClick={d.hush}>
                Understood
              </button>
            </div>
          ),
      )}
      {children}
      <Settle />
    </div>
  );
}

/** All problems of the draft; each leads to its row and may be mended at once. */
function ProblemList() {
  const d = useDraft();
  const errors = d.problems.filter((p) => p.severity === "error").length;
  const warnings = d.problems.length - errors;
  const words =
    d.problems.length === 0
      ? "No problems"
      : [
          errors > 0 && `${errors} ${errors === 1 ? "error" : "errors"}`,
          warnings > 0 && `${warnings} ${warnings === 1 ? "warning" : "warnings"}`,
        ]
          .filter(Boolean)
          .join(", ");
  return (
    <Popover
      align="end"
      width={430}
      trigger={
        <Button small look="quiet" className={errors > 0 ? "!text-brick" : ""}>
          {words}
        </Button>
      }
    >
      <h2 className="mb-1 !text-base">Problems</h2>
      {d.problems.length === 0 && <p className="text-soft">Nothing keeps this draft from being released.</p>}
      <ul>
        {d.problems.map((p, i) => (
          <li key={i} className="border-t border-line py-1.5">
            <span className={p.severity === "error" ? "text-brick" : "text-lichen"}>
              {p.severity === "error" ? "Error" : "Warning"}:{" "}
            </span>
            {p.message}{" "}
            <PopoverClose asChild>
              <Link className="link text-sm" href={problemPlace(d.definition, p.where).href}>
                {problemPlace(d.definition, p.where).says}
              </Link>
            </PopoverClose>
            {p.mend && (
              <button type="button" className="ml-2 text-sm underline" onClick={() => d.edit(p.mend!.edit)}>
                {p.mend.label}
              </button>
            )}
          </li>
        ))}
      </ul>
    </Popover>
  );
}
