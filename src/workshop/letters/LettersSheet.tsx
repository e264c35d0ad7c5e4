"use client";
import { Plus } from "lucide-react";
import { useEffect, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import type { Letter } from "@/core/letter";
import { Button, classes, Empty, Menu } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../parts/newId";
import { LetterHere, useNamesOfLetter } from "./letterHere";
import { LetterPreview } from "./LetterPreview";
import { LetterSheet } from "./LetterSheet";

const blank = (id: string, name: string): Letter => ({
  id,
  name,
  texts: [{ language: "en", subject: "{Request.number}", parts: [] }],
});

/** The letters of a process: which there are, the chosen one as it is written, and beside it as it arrives. */
export function LettersSheet() {
  const edit = useDraft((d) => d.edit);
  const definition = useDraft((d) => d.definition);
  const problemsAt = useDraft((d) => d.problemsAt);
  const forAll = useDraft((d) => d.office.letters);
  const letters = definition.letters ?? [];
  const [picked, setPicked] = useState("");
  const [language, setLanguage] = useState("");
  useEffect(() => {
    // A problem leads to its letter by the address.
    const follow = () => setPicked(decodeURIComponent(window.location.hash.slice(1)));
    follow();
    window.addEventListener("hashchange", follow);
    return () => window.removeEventListener("hashchange", follow);
  }, []);
  const letter = letters.find((l) => l.id === picked) ?? letters[0];
  const names = useNamesOfLetter(letter?.id ?? "");
  const pick = (id: string) => {
    setPicked(id);
    window.history.replaceState(null, "", `#${id}`);
  };
  const add = () => {
    const names = new Set(letters.map((l) => l.name));
    let name = "New letter";
    for (let n = 2; names.has(name); n++) name = `New letter ${n}`;
    const id = newId("letter", (x) => letters.some((l) => l.id === x));
    if (edit({ op: "letter.put", after: letters.at(-1)?.id ?? null, letter: blank(id, name) })) pick(id);
  };
  const take = (kept: (typeof forAll)[number]) => {
    const id = newId("letter", (x) => letters.some((l) => l.id === x));
    const taken = { ...kept.letter, id, from: { letter: kept.id, version: kept.version } };
    if (edit({ op: "letter.put", after: letters.at(-1)?.id ?? null, letter: taken })) pick(id);
  };
  const addButton = (
    <>
      <Button small onClick={add}>
        <Plus size={14} aria-hidden /> Letter
      </Button>
      {forAll.length > 0 && (
        <Menu
          trigger={
            <Button small look="quiet">
              One kept for all …
            </Button>
          }
          groups={[{ items: forAll.map((k) => ({ id: k.id, label: k.name, onPick: () => take(k) })) }]}
        />
      )}
    </>
  );
  if (!letter)
    return (
      <Empty title="No letters yet" action={addButton}>
        A letter is a text that is kept to be sent, with values, parts that are only written on a condition,
        and rows for each thing of a list. Steps that tell send it, those who are asked get it, and whoever
        works on a request may send it by hand.
      </Empty>
    );
  const text = letter.texts.find((t) => t.language === language) ?? letter.texts[0]!;
  return (
    <LetterHere value={names}>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <nav aria-label="Letters" className="contents">
          {letters.map((l) => {
            const wrong = problemsAt("letter", l.id).some((p) => p.severity === "error");
            return (
              <button
                key={l.id}
                type="button"
                aria-current={l === letter ? "true" : undefined}
                className={classes(
                  "min-h-7 max-w-64 truncate border-b-2",
                  l === letter ? "border-moss font-medium" : "border-transparent text-soft hover:text-ink",
                )}
                onClick={() => pick(l.id)}
              >
                {l.name.trim() || "Without a name"}
                {wrong && <span className="text-brick"> (error)</span>}
              </button>
            );
          })}
        </nav>
        {addButton}
      </div>
      <Group orientation="horizontal" className="min-h-[60vh]">
        <Panel defaultSize="56%" minSize="40%">
          <div className="max-h-[calc(100vh-13.5rem)] overflow-auto pr-4 pb-24">
            <LetterSheet
              key={letter.id}
              letter={letter}
              text={text}
              onLanguage={setLanguage}
              onGone={() => pick("")}
            />
          </div>
        </Panel>
        <Separator
          className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
          aria-label="Width of the letter as it arrives"
        />
        <Panel minSize="24%">
          <LetterPreview letter={letter} language={text.language} />
        </Panel>
      </Group>
    </LetterHere>
  );
}
