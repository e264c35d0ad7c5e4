"use client";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useCallback, useEffect, useRef, useState } from "react";
import { TEXT } from "@/core/expression";
import { tooMuch, type Letter, type LetterPart, type LetterText } from "@/core/letter";
import { lettersUsed, placesOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Detail } from "../parts/Detail";
import { ForAll } from "../parts/ForAll";
import { FormulaCell } from "../parts/FormulaCell";
import { TemplateCell } from "../parts/TemplateCell";
import { TextCell } from "../parts/TextCell";
import { useLetterNames } from "./letterHere";

/** Only who writes letters fetches the editor. */
const LetterEditor = dynamic(() => import("./LetterEditor"), {
  ssr: false,
  loading: () => <p className="py-6 text-soft">The editor is being fetched …</p>,
});

const TAG = /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8}){0,2}$/;

/** A letter as it is written: what it is called, when it is sent, and its text in each language. */
export function LetterSheet({
  letter,
  text,
  onLanguage,
  onGone,
}: {
  letter: Letter;
  text: LetterText;
  onLanguage(language: string): void;
  onGone(): void;
}) {
  const d = useDraft();
  const { scope, names } = useLetterNames(null);
  const problems = d.problemsAt("letter", letter.id);
  // What rests in the editor is put into the letter as it is by then.
  const now = useRef({ letter, edit: d.edit });
  useEffect(() => {
    now.current = { letter, edit: d.edit };
  });
  const put = useCallback(
    (change: (l: Letter) => Letter) =>
      now.current.edit({ op: "letter.put", after: null, letter: change(now.current.letter) }),
    [],
  );
  const set = (patch: { [P in keyof Letter]?: Letter[P] | undefined }) =>
    put(
      (l) =>
        Object.fromEntries(
          Object.entries({ ...l, ...patch }).filter(([, v]) => v !== undefined),
        ) as unknown as Letter,
    );
  const { language } = text;
  const setText = useCallback(
    (patch: Partial<LetterText>) =>
      put((l) => ({ ...l, texts: l.texts.map((t) => (t.language === language ? { ...t, ...patch } : t)) })),
    [put, language],
  );
  const [full, setFull] = useState<string | null>(null);
  const onParts = useCallback(
    (parts: LetterPart[]) => {
      // Too much would be refused with all that was changed beside it: it stays in the editor, and is said there.
      const why = tooMuch(parts);
      setFull(why);
      if (!why) setText({ parts });
    },
    [setText],
  );
  const closers = (d.definition.letters ?? []).filter((l) => l.closes && l.id !== letter.id);
  return (
    <div className="grid gap-3">
      {problems.map((p, i) => (
        <p key={i} className={p.severity === "error" ? "text-brick" : "text-lichen"}>
          {p.message}
        </p>
      ))}
      <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-3 gap-y-2">
        <Detail says="Name" htmlFor="letter-name">
          <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
            <TextCell
              id="letter-name"
              className="input min-w-40 !w-auto flex-1"
              value={letter.name}
              onCommit={(t) => (t.trim() ? set({ name: t.trim() }) : false)}
            />
            {!letter.closes && (
              <label className="flex items-center gap-2 text-sm text-soft">
                closed by
                <Select
                  className="!w-44"
                  value={letter.closing ?? ""}
                  empty={closers.length > 0 ? "nothing" : "nothing: none closes others"}
                  onPick={(id) => void set({ closing: id || undefined })}
                  options={closers.map((l) => ({ value: l.id, label: l.name }))}
                />
              </label>
            )}
          </div>
        </Detail>
        <Detail says="Sent">
          <Sent letter={letter} onChange={set} />
        </Detail>
        <Detail says="Language">
          <Languages letter={letter} language={language} onPick={onLanguage} put={put} />
        </Detail>
        {letter.texts.length > 1 && !letter.closes && (
          <Detail says="written in">
            <div>
              <FormulaCell
                framed
                label="Which language is written"
                placeholder='e.g. if Borrower.Country = "IE" then "en" else "fr"'
                value={letter.language ?? ""}
                scope={scope}
                names={names}
                wanted={TEXT}
                onCommit={(t) => void set({ language: t.trim() || undefined })}
              />
            </div>
          </Detail>
        )}
        {!letter.closes && (
          <Detail says="Subject">
            <div>
              <TemplateCell
                key={language}
                label="Subject"
                value={text.subject}
                scope={scope}
                onCommit={(subject) => void setText({ subject })}
              />
            </div>
          </Detail>
        )}
      </div>
      <LetterEditor key={language} parts={text.parts} onChange={onParts} />
      {full && (
        <p role="alert" className="text-brick">
          Not kept yet: {full}
        </p>
      )}
      <p className="flex flex-wrap gap-x-5 text-sm">
        <LetterForAll letter={letter} put={put} />
        <button
          type="button"
          className="text-sm text-brick underline"
          onClick={() => {
            if (d.edit({ op: "letter.remove", id: letter.id })) onGone();
          }}
        >
          Take this letter away
        </button>
      </p>
    </div>
  );
}

/** By which steps it is sent, and how else. */
function Sent({
  letter,
  onChange,
}: {
  letter: Letter;
  onChange(patch: { byHand?: true | undefined; closes?: true | undefined; closing?: undefined }): void;
}) {
  const definition = useDraft((d) => d.definition);
  const places = placesOf(definition, KINDS);
  const steps = lettersUsed(definition, KINDS).get(letter.id) ?? [];
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-1 pt-1.5">
      {!letter.closes && (
        <p>
          {steps.length === 0 && <span className="text-soft">by no step yet</span>}
          {steps.map((id, i) => {
            const p = places.get(id);
            return (
              <span key={id}>
                {i > 0 && ", "}
                <Link className="link" href={`/workshop/${definition.key}/route#step-${id}`}>
                  {p?.number} {p?.step.name}
                </Link>
              </span>
            );
          })}
        </p>
      )}
      {!letter.closes && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={letter.byHand === true}
            onChange={(e) => onChange({ byHand: e.target.checked ? true : undefined })}
          />
          by hand, too
        </label>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={letter.closes === true}
          onChange={(e) =>
            onChange(
              e.target.checked
                ? { closes: true, closing: undefined, byHand: undefined }
                : { closes: undefined },
            )
          }
        />
        only to close other letters, like a signature
      </label>
    </div>
  );
}

/** In which languages it is written, and which of them one sees. */
function Languages({
  letter,
  language,
  onPick,
  put,
}: {
  letter: Letter;
  language: string;
  onPick(language: string): void;
  put(change: (l: Letter) => Letter): boolean;
}) {
  const [wrong, setWrong] = useState("");
  const add = (typed: string): boolean => {
    const tag = typed.trim();
    if (tag === "") return true;
    const known = letter.texts.find((t) => t.language.toLowerCase() === tag.toLowerCase());
    if (known) onPick(known.language);
    else if (!TAG.test(tag)) {
      setWrong(`“${tag}” is no tag of a language; write for example fr, or pt-BR.`);
      return false;
    } else {
      // As it stands in the first, to be written anew.
      const { subject, parts } = letter.texts[0]!;
      if (!put((l) => ({ ...l, texts: [...l.texts, { language: tag, subject, parts }] }))) return false;
      onPick(tag);
    }
    setWrong("");
    return true;
  };
  return (
    <div>
      <div className="flex flex-wrap items-center gap-x-3">
        {letter.texts.map((t) => (
          <button
            key={t.language}
            type="button"
            aria-pressed={t.language === language}
            className={classes(
              "min-h-7 border-b-2",
              t.language === language ? "border-moss font-medium" : "border-transparent text-soft",
            )}
            onClick={() => onPick(t.language)}
          >
            {inWords(t.language)}
          </button>
        ))}
        <TextCell
          key={letter.texts.length}
          className="input !w-32"
          aria-label="Another language"
          placeholder="also in: fr, ga"
          value=""
          onCommit={add}
        />
        {letter.texts.length > 1 && (
          <button
            type="button"
            className="text-sm underline"
            onClick={() => {
              put((l) => ({ ...l, texts: l.texts.filter((t) => t.language !== language) }));
              onPick("");
            }}
          >
            not in {inWords(language)}
          </button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="text-sm text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}

function inWords(tag: string): string {
  try {
    return new Intl.DisplayNames("en", { type: "language" }).of(tag) ?? tag;
  } catch {
    return tag;
  }
}

/** Keeps the letter for all processes, and takes what has become of the words it was taken with. */
function LetterForAll({ letter, put }: { letter: Letter; put(change: (l: Letter) => Letter): boolean }) {
  const { office, keepLetter } = useDraft();
  const { from } = letter;
  const kept = office.letters.find((k) => k.id === from?.letter);
  return (
    <ForAll
      name={letter.name}
      taken={from !== undefined}
      newer={kept && from && kept.version > from.version ? "Its words for all have changed: take them" : null}
      keep={() => keepLetter(letter.id)}
      onKept={(of) => void put((l) => ({ ...l, from: of }))}
      onTake={() =>
        kept &&
        put((l) => ({ ...l, texts: kept.letter.texts, from: { letter: kept.id, version: kept.version } }))
      }
    />
  );
}
