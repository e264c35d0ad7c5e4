import { isList, templateParts, type Names, type Value } from "../expression";
import {
  safeLink,
  type Letter,
  type LetterPart,
  type LetterText,
  type Run,
  type WrittenLetter,
  type WrittenPart,
  type WrittenRun,
} from "../letter";
import { letterPlace } from "../route";
import { letterOwner, type CompiledFormula } from "./release";
import { scopeOfText } from "./scopeOfText";
import type { At, Turn } from "./turn";
import { Unclear } from "./unclear";

/** Rows and parts of a letter, and characters: more is no letter. */
const MOST_PARTS = 2000;
const MOST_CHARACTERS = 200_000;

/** A letter as it is sent now. */
export interface Composed {
  subject: string;
  letter: WrittenLetter;
  /** It tells of what is hidden from somebody. */
  hidden: boolean;
  /** What was read for it, conditions and lists too. */
  read: ReadonlySet<CompiledFormula>;
}

/** Not for what is sent by a step. */
interface How {
  /** It is to be seen what was filled in. */
  inked?: boolean;
  /** In this language, whatever the letter says. */
  language?: string;
}

/** Where one is in a letter: how names are read, and what a thing of a list is called. */
interface Here {
  at: At;
  names: Names;
  as: string | null;
}

/**
 * Puts the values into a letter, in the language it is to be in. What cannot be worked out is left out of texts, as
 * everywhere; where it decides what is written, or for what, that is told.
 * @param at where it is sent from: the names known there are known in the letter
 * @throws Unclear where a condition, a list or the language cannot be worked out, or it would be too long
 */
export function composeLetter(turn: Turn, at: At, id: string, how: How = {}): Composed {
  const letter = turn.release.letters.get(letterOwner(id));
  if (!letter) throw new Unclear({ code: "no-letter", data: { letter: id } });
  return new Composing(turn, how.inked === true).compose(letter, at, how.language);
}

class Composing {
  private readonly read = new Set<CompiledFormula>();
  private parts = 0;
  private characters = 0;
  private name = "";

  constructor(
    private readonly turn: Turn,
    private readonly inked: boolean,
  ) {}

  compose(letter: Letter, from: At, wanted?: string): Composed {
    this.name = letter.name;
    const scope = scopeOfText(this.turn, letterOwner(letter.id), from.scope);
    const at = { step: letterOwner(letter.id), scope };
    const asked =
      wanted ?? (letter.language?.trim() ? this.turn.value(at, letterPlace.language, letter.language) : null);
    const text = inLanguage(letter, typeof asked === "string" ? asked : "");
    const here = { at, names: this.turn.names(scope), as: null };
    const subject = this.template(letterPlace.subject(text.language), text.subject, here);
    const parts = this.all(text.parts, letterPlace.parts(text.language), here);
    const closing =
      letter.closing === undefined ? undefined : this.turn.release.letters.get(letterOwner(letter.closing));
    const letterParts = closing ? [...parts, ...this.closing(closing, text.language)] : parts;
    return {
      subject: subject.replace(/\s+/g, " ").trim(),
      letter: { language: text.language, parts: letterParts },
      hidden: [...this.read].some((f) => this.turn.hides(f)),
      read: this.read,
    };
  }

  /** What closes a letter reads what the whole request knows, wherever that is sent from. */
  private closing(letter: Letter, language: string): WrittenPart[] {
    const text = inLanguage(letter, language);
    const at = { step: letterOwner(letter.id), scope: null };
    return this.all(text.parts, letterPlace.parts(text.language), {
      at,
      names: this.turn.names(null),
      as: null,
    });
  }

  private all(parts: readonly LetterPart[], place: string, here: Here): WrittenPart[] {
    return parts.flatMap((p, i) => this.part(p, letterPlace.inside(place, i), here));
  }

  private part(p: LetterPart, place: string, here: Here): WrittenPart[] {
    this.bounded(1, 0);
    switch (p.part) {
      case "paragraph":
      case "heading":
        return [{ part: p.part, runs: this.runs(p.runs, place, here) }];
      case "list":
        return [{ ...p, items: p.items.map((x, i) => this.runs(x, letterPlace.inside(place, i), here)) }];
      case "table":
        return [
          {
            part: "table",
            rows: p.rows.map((row, i) =>
              row.map((cell, j) =>
                this.runs(cell, letterPlace.inside(letterPlace.inside(place, i), j), here),
              ),
            ),
          },
        ];
      case "lines": {
        const rows = this.things(p, place, here).map((names) =>
          p.columns.map((c, i): WrittenRun[] => [
            {
              text: this.words(letterPlace.inside(place, i), c.value, { ...here, names, as: p.as }),
              ...(this.inked ? { inked: true as const } : {}),
            },
          ]),
        );
        // A heading over nothing says nothing.
        if (rows.length === 0) return [];
        return [{ part: "table", rows: [p.columns.map((c): WrittenRun[] => [{ text: c.title }]), ...rows] }];
      }
      case "when": {
        const when = letterPlace.inside(place, "when");
        this.reads(when, p.when, here);
        return this.turn.value(here.at, when, p.when, here.names) === true
          ? this.all(p.parts, place, here)
          : [];
      }
      case "each":
        return this.things(p, place, here).flatMap((names) =>
          this.all(p.parts, place, { ...here, names, as: p.as }),
        );
    }
  }

  /** The names in which each thing of a list is known. */
  private things({ of, as }: { of: string; as: string }, at: string, here: Here): Names[] {
    const place = letterPlace.inside(at, "of");
    this.reads(place, of, here);
    const list = this.turn.value(here.at, place, of, here.names);
    const things: readonly Value[] = isList(list) ? list : [list].filter((x) => x !== null);
    this.bounded(things.length, 0);
    return things.map((thing) => ({ get: (n) => (n === as ? thing : here.names.get(n)) }));
  }

  private runs(list: readonly Run[], place: string, here: Here): WrittenRun[] {
    return list.map((r, i) => {
      const at = letterPlace.inside(place, i);
      const text = "text" in r ? r.text : this.words(at, r.value, here);
      this.bounded(0, text.length);
      const link =
        r.link === undefined ? null : safeLink(this.template(letterPlace.inside(at, "link"), r.link, here));
      return {
        text,
        ...(r.bold ? { bold: true as const } : {}),
        ...(r.italic ? { italic: true as const } : {}),
        ...(this.inked && "value" in r ? { inked: true as const } : {}),
        ...(link === null ? {} : { link }),
      };
    });
  }

  private words(place: string, formula: string, here: Here): string {
    if (!formula.trim()) return "";
    this.reads(place, formula, here);
    const text = this.turn.words(here.at, place, formula, here.names, here.as);
    this.bounded(0, text.length);
    return text;
  }

  private template(place: string, template: string, here: Here): string {
    for (const p of templateParts(template)) if ("formula" in p) this.reads(place, p.formula, here);
    return this.turn.text(here.at, place, template, here.names);
  }

  /** Notes what a formula tells of. */
  private reads(place: string, formula: string, { at }: Here) {
    const f = formula ? this.turn.formula(at.step, place, formula) : null;
    if (f) this.read.add(f);
  }

  private bounded(parts: number, characters: number) {
    this.parts += parts;
    this.characters += characters;
    if (this.parts <= MOST_PARTS && this.characters <= MOST_CHARACTERS) return;
    throw new Unclear({
      code: "letter-too-long",
      data: { letter: this.name, parts: MOST_PARTS, characters: MOST_CHARACTERS },
    });
  }
}

/** The text in a language; of "pt-BR" also the one in "pt", or any in that; else the first. */
export function inLanguage(letter: Letter, wanted: string): LetterText {
  const tag = (t: string) => t.trim().toLowerCase();
  const base = (t: string) => tag(t).split("-")[0];
  return (
    letter.texts.find((t) => tag(t.language) === tag(wanted)) ??
    letter.texts.find((t) => base(t.language) === base(wanted)) ??
    letter.texts[0]!
  );
}
