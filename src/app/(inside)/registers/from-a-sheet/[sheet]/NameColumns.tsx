"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { tidyName, type Column, type RegisterShape } from "@/core/form";
import type { NewSheetPage } from "@/services";
import { Banner, Button, Field, Select } from "@/ui";
import { makeOfSheetAction } from "../../../../actions/sheets";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";
import { COLUMN_KINDS } from "../../[register]/columns/columnKinds";
import { idFrom } from "../../[register]/columns/idFrom";

interface Naming {
  name: string;
  /** Empty where it is left out. */
  kind: Column["kind"] | "";
  options?: string[];
  examples: string[];
}
/** What cannot be read from a sheet of which nothing is known yet: it points at records of another register. */
const KINDS = COLUMN_KINDS.filter((k) => !k.value.startsWith("look-up"));

const choicesOf = (n: Naming): string[] => n.options ?? [...new Set(n.examples)];

/** The columns of a sheet as those of a register that is made of it. */
export function NameColumns(p: {
  id: string;
  headings: string[];
  guesses: NewSheetPage["guesses"];
  rows: number;
}) {
  const router = useRouter();
  const { proved, dialog } = useProof();
  const [name, setName] = useState("");
  const [one, setOne] = useState("");
  const [title, setTitle] = useState(() =>
    Math.max(
      0,
      p.guesses.findIndex((g) => g.kind === "text"),
    ),
  );
  const [columns, setColumns] = useState<Naming[]>(() =>
    p.guesses.map((g, i) => ({ ...g, name: tidyName(p.headings[i]!) || `Column ${i + 1}` })),
  );
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const set = (i: number, change: Partial<Naming>) =>
    setColumns((all) => all.map((c, n) => (n === i ? { ...c, ...change } : c)));
  const make = () =>
    start(async () => {
      const made: Column[] = [];
      const matches = columns.map((c): string | null => {
        if (c.kind === "") return null;
        const id = idFrom(c.name, { columns: made });
        const options = c.kind === "choice" ? { options: choicesOf(c) } : {};
        made.push({ id, name: c.name.trim(), kind: c.kind, ...options });
        return id;
      });
      const shape: RegisterShape = {
        format: "cobble-step/register@1",
        key: idFrom(name, { columns: [] }),
        name: name.trim(),
        one: one.trim(),
        purpose: "",
        columns: made,
        title: matches[title] ? [matches[title]] : [],
      };
      const r = await proved(() => makeOfSheetAction(p.id, shape, matches));
      if (!r.ok) return setWrong(r.sentence);
      say(`${shape.name} is made. Now look at its first records.`);
      router.push(`/registers/${r.value.key}/import/${p.id}`);
    });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        make();
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <div className="mb-5 grid max-w-2xl gap-4 sm:grid-cols-2">
        <Field label="What the register is called" help="For example: Frames">
          {(f) => <input className="input" {...f} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <Field label="One record is called" help="For example: frame">
          {(f) => <input className="input" {...f} value={one} onChange={(e) => setOne(e.target.value)} />}
        </Field>
      </div>
      <ul className="mb-5 border-t border-line">
        {columns.map((c, i) => (
          <li
            key={i}
            className="grid grid-cols-[minmax(0,1fr)_minmax(0,14rem)_11rem_7rem] items-center gap-x-4 border-b border-line py-1.5"
          >
            <span className="min-w-0">
              <span className="block truncate font-medium">{p.headings[i] || `Column ${i + 1}`}</span>
              <span className="block truncate text-sm text-soft">{c.examples.join(" · ") || "empty"}</span>
            </span>
            <input
              className="input"
              aria-label={`Name of column ${i + 1}`}
              value={c.name}
              disabled={c.kind === ""}
              onChange={(e) => set(i, { name: e.target.value })}
            />
            <Select
              aria-label={`Kind of ${c.name}`}
              value={c.kind}
              empty="left out"
              options={KINDS}
              onPick={(v) => set(i, { kind: v as Naming["kind"] })}
            />
            <label className="flex items-center gap-1.5 text-sm">
              <input
                type="radio"
                name="title"
                checked={title === i}
                disabled={c.kind !== "text" && c.kind !== "long text"}
                onChange={() => setTitle(i)}
              />
              names it
            </label>
          </li>
        ))}
      </ul>
      <p className="mb-3 text-soft">
        You look after the register, and nobody else sees it until you say who does. Its{" "}
        {p.rows.toLocaleString("en-IE")} {p.rows === 1 ? "row is" : "rows are"} tried next, and brought in
        when you say so.
      </p>
      <Button look="main" type="submit" disabled={busy || !name.trim() || !one.trim()}>
        {busy ? "Making…" : "Make the register"}
      </Button>
    </form>
  );
}
