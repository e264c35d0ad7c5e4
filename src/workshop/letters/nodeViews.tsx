"use client";
import { NodeViewContent, NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { Plus, X } from "lucide-react";
import { useState, type ReactNode } from "react";
import { ANY, listOf, YESNO } from "@/core/expression";
import { classes, Popover } from "@/ui";
import { FormulaCell } from "../parts/FormulaCell";
import { TextCell } from "../parts/TextCell";
import {
  extensionsWith,
  LetterEach,
  LetterLines,
  LetterValue,
  LetterWhen,
  LetterWhenInEach,
} from "./extensions";
import { eachAround, useLetterNames, useSampleWords } from "./letterHere";

/** Where a formula stands in the editor. */
const useHere = ({ editor, getPos }: NodeViewProps) => useLetterNames(eachAround(editor, getPos()));

/** What is said of a part of the letter: reads as text, opens its formula when pressed, and at once where there is none yet. */
function Said({
  label,
  text,
  empty,
  onClose,
  children,
}: {
  label: string;
  text: ReactNode;
  empty: boolean;
  onClose?(): void;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(empty);
  return (
    <Popover
      open={open}
      width={420}
      keepsFocus={() => onClose !== undefined}
      onOpenChange={(o) => {
        setOpen(o);
        // What was typed is kept when the cell is left, which closing it does first.
        if (!o && onClose) setTimeout(onClose, 0);
      }}
      trigger={
        <button type="button" className={classes("chip", empty && "chip-empty")} aria-label={label}>
          {text}
        </button>
      }
    >
      {children}
    </Popover>
  );
}

function ValueView(p: NodeViewProps) {
  const value = String(p.node.attrs["value"]);
  const { scope, names } = useHere(p);
  const words = useSampleWords(value, scope, names);
  const goOn = () => {
    const at = p.getPos();
    if (at === undefined) return;
    const now = p.editor.state.doc.nodeAt(at);
    if (!now || now.type !== p.node.type) return;
    if (String(now.attrs["value"]).trim() === "") p.deleteNode();
    else p.editor.commands.focus(at + 1);
  };
  return (
    <NodeViewWrapper as="span" className="rounded-sm bg-moss-wash">
      <Said
        label={`Value: ${value || "a value"}${words ? ` ${words}` : ""}`}
        empty={value === ""}
        onClose={goOn}
        text={
          value === "" ? (
            "a value"
          ) : (
            <>
              <span className="max-w-52 truncate font-mono text-[0.85em]" title={value}>
                {value}
              </span>{" "}
              {words !== null && words !== "" && (
                <span className="max-w-40 truncate text-sm text-soft">{words}</span>
              )}
            </>
          )
        }
      >
        <span className="text-sm text-soft" aria-hidden>
          What stands there
        </span>
        <FormulaCell
          label="What stands there"
          placeholder="e.g. Request.number"
          value={value}
          scope={scope}
          names={names}
          wanted={ANY}
          onCommit={(t) => p.updateAttributes({ value: t.trim() })}
        />
      </Said>
    </NodeViewWrapper>
  );
}

/** A frame around a part of the letter, with what it hangs on above. */
function Framed({ p, head, children }: { p: NodeViewProps; head: ReactNode; children?: ReactNode }) {
  const unwrap = () => {
    const at = p.getPos();
    if (at === undefined) return;
    const { node, editor } = p;
    editor
      .chain()
      .focus()
      .command(({ tr }) => {
        tr.replaceWith(at, at + node.nodeSize, node.content);
        return true;
      })
      .run();
  };
  return (
    <NodeViewWrapper className="my-2 border-l-[3px] border-slate pl-3">
      <div contentEditable={false} className="flex items-start gap-x-2 text-sm text-soft select-none">
        <span className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-2">{head}</span>
        <button
          type="button"
          className="ml-auto grid size-6 place-items-center rounded hover:bg-pebble"
          aria-label={children ? "Take away the frame, and keep what stands in it" : "Take the rows away"}
          title={children ? "Take away the frame" : "Take away"}
          onClick={unwrap}
        >
          <X size={14} aria-hidden />
        </button>
      </div>
      {children}
    </NodeViewWrapper>
  );
}

function WhenView(p: NodeViewProps) {
  const when = String(p.node.attrs["when"]);
  const { scope, names } = useHere(p);
  const words = useSampleWords(when, scope, names);
  return (
    <Framed
      p={p}
      head={
        <>
          <span>
            only if{" "}
            <Said
              label={`Only if: ${when || "a condition"}`}
              text={when || "a condition"}
              empty={when === ""}
            >
              <FormulaCell
                label="When this part is written"
                placeholder="e.g. Total > 500"
                value={when}
                scope={scope}
                names={names}
                wanted={YESNO}
                onCommit={(t) => p.updateAttributes({ when: t.trim() })}
              />
            </Said>
          </span>
          {words !== null && (
            <span>{words === "yes" ? "written for the sample" : "left out for the sample"}</span>
          )}
        </>
      }
    >
      <NodeViewContent />
    </Framed>
  );
}

/** Which list, and what a thing of it is called. */
function ListCells({ p, of, as }: { p: NodeViewProps; of: string; as: string }) {
  const { scope, names } = useHere(p);
  return (
    <div className="grid gap-1">
      <span className="text-sm text-soft" aria-hidden>
        For each thing of
      </span>
      <FormulaCell
        label="For each thing of"
        placeholder="a list, e.g. Objects or Objects[Accepted]"
        value={of}
        scope={scope}
        names={names}
        wanted={listOf(ANY)}
        onCommit={(t) => p.updateAttributes({ of: t.trim() })}
      />
      <span className="text-sm text-soft" aria-hidden>
        which formulas here call
      </span>
      <TextCell
        className="input"
        aria-label="What formulas call a thing"
        value={as}
        onCommit={(t) => (t.trim() ? p.updateAttributes({ as: t.trim() }) : false)}
      />
    </div>
  );
}

const listText = (of: string, as: string): string => (of ? `${as} of ${of}` : "thing of a list");
const attrsOf = (p: NodeViewProps) => ({ of: String(p.node.attrs["of"]), as: String(p.node.attrs["as"]) });

function EachView(p: NodeViewProps) {
  const { of, as } = attrsOf(p);
  return (
    <Framed
      p={p}
      head={
        <span>
          for each{" "}
          <Said label={`For each: ${listText(of, as)}`} text={listText(of, as)} empty={of === ""}>
            <ListCells p={p} of={of} as={as} />
          </Said>
        </span>
      }
    >
      <NodeViewContent />
    </Framed>
  );
}

interface Column {
  title: string;
  value: string;
}
function LinesView(p: NodeViewProps) {
  const { of, as } = attrsOf(p);
  const columns = p.node.attrs["columns"] as Column[];
  const headings = columns.map((c) => c.title || "without a heading").join(", ");
  const put = (next: Column[]) => p.updateAttributes({ columns: next });
  const inRow = useLetterNames({ of, as });
  return (
    <Framed
      p={p}
      head={
        <span>
          a row for each{" "}
          <Said label={`A row for each: ${listText(of, as)}`} text={listText(of, as)} empty={of === ""}>
            <ListCells p={p} of={of} as={as} />
          </Said>{" "}
          with{" "}
          <Said label={`Columns: ${headings}`} text={headings} empty={false}>
            <ol className="grid gap-2">
              {columns.map((c, i) => (
                <li key={i} className="grid grid-cols-[8rem_1fr_auto] items-start gap-2">
                  <TextCell
                    className="input"
                    aria-label={`Heading of column ${i + 1}`}
                    placeholder="Heading"
                    value={c.title}
                    onCommit={(title) => put(columns.with(i, { ...c, title: title.trim() }))}
                  />
                  <FormulaCell
                    label={`What stands in column ${i + 1}`}
                    placeholder={`e.g. ${as}.Name`}
                    value={c.value}
                    scope={inRow.scope}
                    names={inRow.names}
                    wanted={ANY}
                    onCommit={(t) => put(columns.with(i, { ...c, value: t.trim() }))}
                  />
                  <button
                    type="button"
                    className="grid size-7 place-items-center"
                    aria-label={`Take column ${i + 1} away`}
                    disabled={columns.length === 1}
                    onClick={() => put(columns.filter((_, k) => k !== i))}
                  >
                    <X size={15} aria-hidden />
                  </button>
                </li>
              ))}
            </ol>
            {columns.length < 12 && (
              <button
                type="button"
                className="mt-2 inline-flex min-h-7 items-center gap-1 text-sm underline"
                onClick={() => put([...columns, { title: "", value: "" }])}
              >
                <Plus size={14} aria-hidden /> column
              </button>
            )}
          </Said>
        </span>
      }
    />
  );
}

/** What the editor of letters is made of, each of our own parts drawn with what it comes to. */
export const VIEWED = extensionsWith({
  value: LetterValue.extend({ addNodeView: () => ReactNodeViewRenderer(ValueView) }),
  when: LetterWhen.extend({ addNodeView: () => ReactNodeViewRenderer(WhenView) }),
  whenInEach: LetterWhenInEach.extend({ addNodeView: () => ReactNodeViewRenderer(WhenView) }),
  each: LetterEach.extend({ addNodeView: () => ReactNodeViewRenderer(EachView) }),
  lines: LetterLines.extend({ addNodeView: () => ReactNodeViewRenderer(LinesView) }),
});
