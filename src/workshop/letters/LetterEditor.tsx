"use client";
import type { Editor } from "@tiptap/core";
import { EditorContent, useEditor, useEditorState } from "@tiptap/react";
import { Bold, Heading, Italic, Link2, List, ListOrdered, Table as TableIcon } from "lucide-react";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { EACH_NAME, type LetterPart } from "@/core/letter";
import { Button, classes, Popover } from "@/ui";
import { fromDocument, NODE, toDocument } from "./document";
import { eachAround } from "./letterHere";
import { VIEWED } from "./nodeViews";

/** How long typing rests before it is kept. */
const REST_MS = 500;

/**
 * The text of a letter as it is written. What is typed is kept when typing rests, and when the text is left; what comes
 * from elsewhere (an undo, somebody else) takes its place.
 */
export default function LetterEditor({
  parts,
  onChange,
}: {
  parts: readonly LetterPart[];
  onChange(parts: LetterPart[]): void;
}) {
  const kept = useRef(JSON.stringify(parts));
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  }, [onChange]);
  const keep = (editor: Editor) => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    const now = fromDocument(editor.getJSON());
    const text = JSON.stringify(now);
    if (text === kept.current) return;
    kept.current = text;
    latest.current(now);
  };
  const editor = useEditor({
    extensions: VIEWED,
    content: toDocument(parts),
    immediatelyRender: false,
    injectCSS: false,
    editorProps: {
      attributes: {
        class: "letter-text",
        role: "textbox",
        "aria-multiline": "true",
        "aria-label": "Text of the letter",
      },
      // While somebody writes, undo belongs to what they write.
      handleKeyDown: (_, e) => {
        if ((e.ctrlKey || e.metaKey) && /^[zy]$/i.test(e.key)) e.stopPropagation();
        return false;
      },
    },
    onUpdate: ({ editor: e }) => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => keep(e), REST_MS);
    },
    onBlur: ({ editor: e }) => keep(e),
    onDestroy: () => {
      if (timer.current) clearTimeout(timer.current);
    },
  });
  useEffect(() => {
    const text = JSON.stringify(parts);
    if (!editor || text === kept.current) return;
    kept.current = text;
    editor.commands.setContent(toDocument(parts), { emitUpdate: false });
  }, [editor, parts]);
  useEffect(
    () => () => {
      // Left for another letter or page while the last words still rest.
      if (editor && !editor.isDestroyed && timer.current) keep(editor);
    },
    [editor],
  );
  if (!editor) return <p className="py-6 text-soft">The editor is being fetched …</p>;
  return (
    <div className="rounded border border-line-strong bg-raised">
      <Tools editor={editor} />
      <EditorContent editor={editor} />
    </div>
  );
}

function Tools({ editor }: { editor: Editor }) {
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive("bold"),
      italic: e.isActive("italic"),
      heading: e.isActive("heading"),
      bulletList: e.isActive("bulletList"),
      orderedList: e.isActive("orderedList"),
      link: e.isActive(NODE.link),
      table: e.isActive("table"),
      inEach: eachAround(e, e.state.selection.from) !== null,
      inWhenOfEach: e.isActive(NODE.whenInEach),
    }),
  });
  const run = (work: (chain: ReturnType<Editor["chain"]>) => ReturnType<Editor["chain"]>) =>
    void work(editor.chain().focus()).run();
  return (
    <div
      role="toolbar"
      aria-label="How the text looks"
      className="flex flex-wrap items-center gap-0.5 border-b border-line px-1.5 py-1"
    >
      <Tool name="Bold" on={on.bold} act={() => run((c) => c.toggleBold())}>
        <Bold size={15} aria-hidden />
      </Tool>
      <Tool name="Italic" on={on.italic} act={() => run((c) => c.toggleItalic())}>
        <Italic size={15} aria-hidden />
      </Tool>
      <Tool name="Heading" on={on.heading} act={() => run((c) => c.toggleHeading({ level: 2 }))}>
        <Heading size={15} aria-hidden />
      </Tool>
      <Tool name="List" on={on.bulletList} act={() => run((c) => c.toggleBulletList())}>
        <List size={15} aria-hidden />
      </Tool>
      <Tool name="Numbered list" on={on.orderedList} act={() => run((c) => c.toggleOrderedList())}>
        <ListOrdered size={15} aria-hidden />
      </Tool>
      <LinkTool editor={editor} on={on.link} />
      {on.table ? (
        <>
          <Tool name="Row below" act={() => run((c) => c.addRowAfter())}>
            + row
          </Tool>
          <Tool name="Column beside" act={() => run((c) => c.addColumnAfter())}>
            + column
          </Tool>
          <Tool name="Take the row away" act={() => run((c) => c.deleteRow())}>
            − row
          </Tool>
          <Tool name="Take the column away" act={() => run((c) => c.deleteColumn())}>
            − column
          </Tool>
        </>
      ) : (
        <Tool name="Table" act={() => run((c) => c.insertTable({ rows: 3, cols: 2, withHeaderRow: true }))}>
          <TableIcon size={15} aria-hidden />
        </Tool>
      )}
      <span className="mx-1 h-5 border-l border-line" aria-hidden />
      <Tool name="Value" act={() => run((c) => c.insertContent({ type: NODE.value, attrs: { value: "" } }))}>
        Value
      </Tool>
      <Tool
        name="Only if"
        why={on.inWhenOfEach ? "It stands in such a part already." : ""}
        act={() => run((c) => c.wrapIn(on.inEach ? NODE.whenInEach : NODE.when, { when: "" }))}
      >
        Only if
      </Tool>
      <Tool
        name="For each"
        why={on.inEach ? "What is repeated holds nothing that is repeated itself." : ""}
        act={() => run((c) => c.wrapIn(NODE.each, { of: "", as: EACH_NAME }))}
      >
        For each
      </Tool>
      <Tool
        name="Rows of a list"
        why={on.inEach ? "What is repeated holds nothing that is repeated itself." : ""}
        act={() =>
          run((c) =>
            c.insertContent({
              type: NODE.lines,
              attrs: { of: "", as: EACH_NAME, columns: [{ title: "", value: "" }] },
            }),
          )
        }
      >
        Rows
      </Tool>
    </div>
  );
}

function Tool({
  name,
  on,
  why = "",
  act,
  children,
}: {
  name: string;
  on?: boolean;
  /** Why it cannot be done here; empty where it can. */
  why?: string;
  act(): void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={classes(
        "inline-flex min-h-7 min-w-7 items-center justify-center rounded px-1.5 text-sm hover:bg-pebble aria-disabled:opacity-55",
        on && "bg-moss-wash",
      )}
      aria-label={name}
      title={why || name}
      {...(on === undefined ? {} : { "aria-pressed": on })}
      {...(why ? { "aria-disabled": true } : {})}
      // The text keeps what is chosen in it.
      onMouseDown={(e) => e.preventDefault()}
      onClick={() => {
        if (!why) act();
      }}
    >
      {children}
    </button>
  );
}

/** Where the chosen words lead. */
function LinkTool({ editor, on }: { editor: Editor; on: boolean }) {
  const [open, setOpen] = useState(false);
  const [href, setHref] = useState("");
  const put = () => {
    const chain = editor.chain().focus().extendMarkRange(NODE.link);
    const to = href.trim();
    if (to === "") chain.unsetMark(NODE.link).run();
    else if (editor.state.selection.empty && !on)
      chain
        .insertContent({ type: "text", text: to, marks: [{ type: NODE.link, attrs: { href: to } }] })
        .run();
    else chain.setMark(NODE.link, { href: to }).run();
    setOpen(false);
  };
  return (
    <Popover
      open={open}
      width={340}
      keepsFocus={() => true}
      onOpenChange={(o) => {
        if (o) setHref(String(editor.getAttributes(NODE.link)["href"] ?? ""));
        setOpen(o);
      }}
      trigger={
        <button
          type="button"
          className={classes(
            "inline-flex size-7 items-center justify-center rounded hover:bg-pebble",
            on && "bg-moss-wash",
          )}
          aria-label="Link"
          title="Link"
        >
          <Link2 size={15} aria-hidden />
        </button>
      }
    >
      <form
        className="grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          e.stopPropagation();
          put();
        }}
      >
        <label className="grid gap-1">
          <span className="text-sm text-soft">Leads to (empty: nowhere)</span>
          <input
            className="input"
            value={href}
            placeholder="https://… or mailto:…, also with {values}"
            onChange={(e) => setHref(e.target.value)}
          />
        </label>
        <Button type="submit" small>
          Put it there
        </Button>
      </form>
    </Popover>
  );
}
