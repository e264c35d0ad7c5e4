"use client";
import Link from "next/link";
import { useState } from "react";
import type { Listed } from "@/core/route";
import { underHeadings } from "./underHeadings";

interface CatalogueForm {
  key: string;
  name: string;
  purpose: string;
  listed: Listed | null;
}
/** From so many on one looks for a form by words. */
const MANY = 7;

/** Forms that can be asked for, under their owners' headings. */
export function CatalogueList({
  forms,
  area,
  columns,
}: {
  forms: readonly CatalogueForm[];
  /** Where each opens: in the office, or outside. */
  area: "ask" | "open";
  columns?: true;
}) {
  const [words, setWords] = useState("");
  const groups = underHeadings(forms, words);
  return (
    <div className="mb-9">
      {forms.length >= MANY && (
        <label className="mb-4 block max-w-96">
          <span className="sr-only">Look for a form</span>
          <input
            type="search"
            className="input"
            placeholder="Look for a form…"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        </label>
      )}
      {groups.length === 0 && forms.length > 0 && (
        <p role="status" className="text-soft">
          No form says “{words}”. Fewer words find more.
        </p>
      )}
      {groups.map(({ heading, entries }) => (
        <section key={heading} aria-label={heading || "Other forms"} className="mb-6">
          {(heading || groups.length > 1) && <h2 className="mb-1.5">{heading || "Other forms"}</h2>}
          <ul className={`grid gap-x-10 border-t border-line ${columns ? "lg:grid-cols-2" : ""}`}>
            {entries.map((e) => (
              <li key={e.key} className="border-b border-line">
                <Link
                  href={`/${area}/${e.key}`}
                  prefetch={false}
                  className="group block py-3 pr-2 no-underline hover:bg-sheet"
                >
                  <span className="font-serif text-lg font-semibold group-hover:underline">{e.name}</span>
                  <span className="block max-w-[62ch] text-soft">{e.purpose}</span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
