"use client";
import { Popover as Radix } from "radix-ui";
import {
  lazy,
  Suspense,
  useRef,
  useState,
  type ChangeEvent,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
} from "react";
import type { FormulaProblem, Names, Scope, Type } from "@/core/expression";
import { classes } from "@/ui";
import type { Writing } from "./offers";
import type { Draft } from "./useWriting";

const Editor = lazy(() => import("./FormulaEditor"));

interface Props {
  draft: Draft;
  writing: Writing;
  scope: Scope;
  wanted: Type;
  names: Names | null;
  label: string;
  placeholder?: string | undefined;
  lines?: number;
  /** What stands in the cell while nobody writes. */
  shown: string;
  look: string;
  wrong: boolean;
  problems: readonly FormulaProblem[];
  describedBy: string;
  onMend(): void;
  /** At the right end of what is written. */
  beside?: ReactNode;
  /** Below it. */
  children: ReactNode;
}

/** Room below the cell, in CSS pixels, that what opens there should have; with less, it opens upwards. */
const ROOM = 330;

/**
 * A text in a cell that is written with help. At rest it is a line (or a few) of text; to write, an editor opens over
 * it, with what is said about it below. Nothing typed is lost: leaving keeps it, Escape puts the old text back.
 */
export function WritingField(p: Props) {
  const { draft, label, lines = 1 } = p;
  const { text, open } = draft;
  const input = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const caret = useRef(0);
  const closing = useRef(false);
  const opening = useRef(0);
  const closeList = useRef<() => boolean>(() => false);
  const [up, setUp] = useState(false);
  const [height, setHeight] = useState(34);
  const [room, setRoom] = useState(ROOM);

  const close = (focus: "stay" | "input") => {
    draft.setOpen(false);
    closeList.current = () => false;
    if (focus === "input") {
      closing.current = true;
      input.current?.focus();
      closing.current = false;
    }
  };
  const show = () => {
    if (closing.current || open) return;
    caret.current = input.current?.selectionEnd ?? text.length;
    // Not within the event: whoever fills the field at one stroke must still find it.
    cancelAnimationFrame(opening.current);
    opening.current = requestAnimationFrame(() => {
      const box = input.current?.getBoundingClientRect();
      if (!box || document.activeElement !== input.current) return;
      // The side is chosen once: what grows later must not make the line being written jump.
      const below = window.innerHeight - box.bottom;
      const turned = below < ROOM && box.top > below;
      setUp(turned);
      setRoom(Math.max(140, (turned ? box.top : below) - 50));
      setHeight(box.height);
      draft.setOpen(true);
    });
  };
  const keepAnd = (focus: "stay" | "input") => {
    draft.keep();
    close(focus);
  };
  const rest = {
    className: classes(p.look, p.wrong && !open && "!border-b-brick", open && "opacity-0"),
    value: p.shown,
    title: p.shown.length > 14 && !open && lines === 1 ? text : undefined,
    placeholder: p.placeholder,
    spellCheck: false,
    autoComplete: "off",
    ...(open ? { "aria-hidden": true, tabIndex: -1 } : { "aria-label": label }),
    "aria-invalid": p.wrong ? (true as const) : undefined,
    onChange: (e: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      draft.setText(e.target.value);
      caret.current = e.target.selectionEnd ?? e.target.value.length;
      show();
    },
    // Passing through by Tab opens nothing; writing, Enter or a click does.
    onClick: show,
    onBlur: () => {
      cancelAnimationFrame(opening.current);
      if (!open) draft.keep();
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === "Enter") {
        e.preventDefault();
        e.stopPropagation();
        cancelAnimationFrame(opening.current);
        if (draft.same()) show();
        else keepAnd("stay");
      }
      if (e.key === "Escape") {
        e.stopPropagation();
        draft.putBack();
        close("stay");
      }
    },
  };
  return (
    <Radix.Root open={open}>
      <Radix.Anchor asChild>
        {lines > 1 ? (
          <textarea ref={input as RefObject<HTMLTextAreaElement>} rows={lines} {...rest} />
        ) : (
          <input ref={input} {...rest} />
        )}
      </Radix.Anchor>
      <Radix.Portal>
        <Radix.Content
          // Kept beside the window's edges, but never turned to the other side.
          ref={panel}
          align="start"
          side={up ? "top" : "bottom"}
          sideOffset={-height}
          collisionPadding={{ left: 12, right: 12, top: -9999, bottom: -9999 }}
          aria-label={p.writing === "formula" ? "Formula editor" : "Text editor"}
          className={classes(
            "z-[60] flex w-[30rem] max-w-[calc(100vw-1.5rem)] rounded border border-focus bg-raised shadow-[0_2px_10px_rgb(0_0_0/0.12)]",
            up ? "flex-col-reverse" : "flex-col",
          )}
          onOpenAutoFocus={(e) => e.preventDefault()}
          onCloseAutoFocus={(e) => e.preventDefault()}
          onEscapeKeyDown={(e) => {
            // The layer takes the key before the editor can: first it closes a list of completions, then all.
            e.preventDefault();
            if (closeList.current()) return;
            draft.putBack();
            close("input");
          }}
          // Focus going back to the cell is not somebody leaving: after Escape that would keep what was just put back.
          onInteractOutside={() => {
            if (!closing.current) keepAnd("stay");
          }}
          onKeyDown={(e) => e.stopPropagation()}
        >
          <div className="flex items-start gap-2 px-2">
            <div className="min-w-0 flex-1">
              <Suspense
                fallback={
                  <p className="py-1.5 font-mono text-[0.84rem] whitespace-pre-wrap">{text || " "}</p>
                }
              >
                <Editor
                  writing={p.writing}
                  lines={lines}
                  text={text}
                  label={label}
                  placeholder={p.placeholder ?? ""}
                  scope={p.scope}
                  wanted={p.wanted}
                  names={p.names}
                  problems={p.problems}
                  caret={caret.current}
                  describedBy={p.describedBy}
                  onChange={draft.setText}
                  onEnter={() => keepAnd("input")}
                  wantsFocus={() =>
                    document.activeElement === input.current ||
                    document.activeElement === document.body ||
                    panel.current?.contains(document.activeElement) === true
                  }
                  onReady={(f) => {
                    closeList.current = f;
                  }}
                  onTab={(back) => {
                    keepAnd("input");
                    step(input.current, back);
                  }}
                  onMend={p.onMend}
                  onWhy={() => draft.setWhy(!draft.why)}
                />
              </Suspense>
            </div>
            {p.beside}
          </div>
          <div
            className={classes(
              "overflow-y-auto border-line px-2 py-1.5 text-sm",
              up ? "border-b" : "border-t",
            )}
            style={{ maxHeight: room }}
          >
            {p.children}
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Tab goes on from the cell, although the editor stands elsewhere in the page. */
function step(from: HTMLElement | null, back: boolean) {
  const all = [
    ...document.querySelectorAll<HTMLElement>(
      'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex]:not([tabindex="-1"])',
    ),
  ].filter((e) => (e.tabIndex >= 0 || e === from) && e.offsetParent !== null);
  const at = from ? all.indexOf(from) : -1;
  all[at + (back ? -1 : 1)]?.focus();
}
