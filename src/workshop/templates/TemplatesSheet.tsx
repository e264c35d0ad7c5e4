"use client";
import { Plus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import type { DocumentTemplate } from "@/core/document";
import { Button, classes, Empty, Menu } from "@/ui";
import type { Brought } from "../draft/draft";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../parts/newId";
import { TemplatePages, usePages } from "./TemplatePages";
import { TemplateSheet } from "./TemplateSheet";

/** What a template is called that nobody has named: as its file, without the ending. */
const namedAfter = (file: string): string => file.replace(/\.docx$/i, "").trim() || "Template";

/** The templates of a process: which there are, the chosen one tag by tag, and beside it as the sample's document. */
export function TemplatesSheet() {
  const d = useDraft();
  const { edit, documents: keeper } = d;
  const documents = d.definition.documents ?? [];
  const forAll = d.office.templates;
  const [picked, setPicked] = useState("");
  const [busy, setBusy] = useState("");
  const [wrong, setWrong] = useState("");
  const [notes, setNotes] = useState<readonly string[]>([]);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    // A problem leads to its template by the address.
    const follow = () => setPicked(decodeURIComponent(window.location.hash.slice(1)));
    follow();
    window.addEventListener("hashchange", follow);
    return () => window.removeEventListener("hashchange", follow);
  }, []);
  const chosen = documents.find((x) => x.id === picked) ?? documents[0];
  const pages = usePages(chosen?.id);
  const pick = (id: string) => {
    setPicked(id);
    setNotes([]);
    setWrong("");
    window.history.replaceState(null, "", `#${id}`);
  };
  /** Puts what came into the draft: as another version of one, or as a new one. */
  const take = async (says: string, of: DocumentTemplate | null, work: (id: string) => Promise<Brought>) => {
    const id = of?.id ?? newId("template", (x) => documents.some((y) => y.id === x));
    setBusy(says);
    setWrong("");
    const came = await work(id);
    setBusy("");
    if (!came.ok) return setWrong(came.sentence);
    const { file, tags, notes: said } = came.value;
    const from = of?.from ? { from: of.from } : {};
    const document = { id, name: of?.name ?? namedAfter(file.name), file, tags, ...from };
    if (!edit({ op: "document.put", after: documents.at(-1)?.id ?? null, document })) return;
    pick(id);
    setNotes(said);
  };
  /** Puts one kept for all into the draft: as it is now in the place of what was taken of it before, or as a new one. */
  const takeKept = async (kept: { id: string; name: string }, of: DocumentTemplate | null) => {
    const id = of?.id ?? newId("template", (x) => documents.some((y) => y.id === x));
    setBusy(`“${kept.name}” is being taken…`);
    setWrong("");
    const came = await keeper.take(id, kept.id).catch(() => null);
    setBusy("");
    if (!came?.ok) return setWrong(came?.sentence ?? "The server could not be reached; nothing was done.");
    const document = { ...came.value, id, name: of?.name ?? came.value.name };
    if (edit({ op: "document.put", after: documents.at(-1)?.id ?? null, document })) pick(id);
  };
  const bring = (of: DocumentTemplate | null, file: File) =>
    void take(`“${file.name}” is being read…`, of, (id) => keeper.bring(id, file));
  const first = () =>
    void take("A first template is being made of the form…", null, (id) => keeper.first(id));
  const told = (
    <>
      {busy && (
        <p role="status" className="text-soft">
          {busy}
        </p>
      )}
      {wrong && (
        <p role="alert" className="max-w-prose text-brick">
          {wrong}
        </p>
      )}
    </>
  );
  const buttons = (
    <>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label="DOCX to be brought in"
        accept=".docx,application/vnd.openxmlformats-officedocument.wordprocessingml.document"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) bring(null, file);
        }}
      />
      <Button small onClick={() => input.current?.click()} disabled={busy !== ""}>
        <Plus size={14} aria-hidden /> Bring in a DOCX…
      </Button>
      <Button small look="quiet" onClick={first} disabled={busy !== ""}>
        Make me a first template
      </Button>
      {forAll.length > 0 && (
        <Menu
          trigger={
            <Button small look="quiet" disabled={busy !== ""}>
              One kept for all …
            </Button>
          }
          groups={[
            { items: forAll.map((k) => ({ id: k.id, label: k.name, onPick: () => void takeKept(k, null) })) },
          ]}
        />
      )}
    </>
  );
  if (!chosen)
    return (
      <>
        <Empty title="No templates yet" action={<span className="flex flex-wrap gap-2">{buttons}</span>}>
          A template is a document of the word processor in which formulas stand in braces, such as{" "}
          <code className="font-mono">{"{Total}"}</code>. Steps that draw up put the values in their place, as
          PDF or DOCX. A first one is made of the form, for you to adorn.
        </Empty>
        {told}
      </>
    );
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <nav aria-label="Templates" className="contents">
          {documents.map((x) => {
            const bad = d.problemsAt("document", x.id).some((p) => p.severity === "error");
            return (
              <button
                key={x.id}
                type="button"
                aria-current={x === chosen ? "true" : undefined}
                className={classes(
                  "min-h-7 max-w-64 truncate border-b-2",
                  x === chosen ? "border-moss font-medium" : "border-transparent text-soft hover:text-ink",
                )}
                onClick={() => pick(x.id)}
              >
                {x.name.trim() || "Without a name"}
                {bad && <span className="text-brick"> (error)</span>}
              </button>
            );
          })}
        </nav>
        {buttons}
        {told}
      </div>
      {notes.map((n) => (
        <p key={n} role="status" className="mb-2 max-w-prose text-lichen">
          {n}
        </p>
      ))}
      <Group orientation="horizontal" className="min-h-[60vh]">
        <Panel defaultSize="56%" minSize="40%">
          <div className="max-h-[calc(100vh-13.5rem)] overflow-auto pr-4 pb-24">
            <TemplateSheet
              key={chosen.id}
              template={chosen}
              first={!pages.busy && pages.shown && "first" in pages.shown ? pages.shown.first : null}
              busy={busy !== ""}
              onBring={(file) => bring(chosen, file)}
              onTake={(kept) => void takeKept(kept, chosen)}
              onGone={() => pick("")}
            />
          </div>
        </Panel>
        <Separator
          className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
          aria-label="Width of the finished document"
        />
        <Panel minSize="24%">
          <TemplatePages template={chosen} now={pages} />
        </Panel>
      </Group>
    </>
  );
}
