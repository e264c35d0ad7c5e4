"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import type { Difference } from "@/core/route";
import type { Broken } from "@/services";
import { Banner, Button } from "@/ui";
import { problemPlace, useDraft } from "@/workshop";
import { releaseAction } from "../../../../actions/workshop";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";

/** Errors listed at once. */
const SHOWN = 12;

export function ReleaseForm({
  process,
  proposed,
  first,
  changes,
  breaks,
}: {
  process: string;
  proposed: string;
  first: boolean;
  changes: Difference[];
  /** What could not hand to it any more. */
  breaks: Broken[];
}) {
  const router = useRouter();
  const d = useDraft();
  const [version, setVersion] = useState(proposed);
  const [note, setNote] = useState("");
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const errors = d.problems.filter((p) => p.severity === "error");
  const warnings = d.problems.length - errors.length;
  useEffect(() => setVersion(proposed), [proposed]);
  // Edits made just before coming here may still be on their way.
  useEffect(() => {
    if (d.saving === "Saved") router.refresh();
  }, [d.saving, router]);
  const same = !first && changes.length === 0;
  return (
    <section>
      <h2 className="mb-2">Release this draft</h2>
      {dialog}
      {said && <Banner tone="bad">{said}</Banner>}
      {errors.length > 0 && (
        <Banner tone="bad">
          {errors.length === 1 ? "One error keeps" : `${errors.length} errors keep`} this draft from being
          released:
          <ul className="mt-1 list-disc pl-5">
            {errors.slice(0, SHOWN).map((p, i) => {
              const at = problemPlace(d.definition, p.where);
              return (
                <li key={i}>
                  <Link className="link" href={at.href}>
                    {at.says}
                  </Link>
                  : {p.message}
                </li>
              );
            })}
            {errors.length > SHOWN && <li>and {errors.length - SHOWN} more, under the errors above</li>}
          </ul>
        </Banner>
      )}
      {errors.length === 0 && warnings > 0 && (
        <Banner tone="soon">
          {warnings === 1 ? "One warning stands" : `${warnings} warnings stand`}; a release is possible all
          the same.
        </Banner>
      )}
      {breaks.length > 0 && (
        <Banner tone="soon">
          After this, {breaks.length === 1 ? "one step" : `${breaks.length} steps`} that hand
          {breaks.length === 1 ? "s" : ""} values to it cannot go on, until the process is released anew:
          <ul className="mt-1 list-disc pl-5">
            {breaks.map((b, i) => (
              <li key={i}>
                <Link className="link" href={`/workshop/${b.key}/route`}>
                  {b.process} {b.version ?? "(draft)"}, {b.number} {b.step}
                </Link>
                : {b.why.join("; ")}
              </li>
            ))}
          </ul>
        </Banner>
      )}
      <h3 className="mb-1">What changes</h3>
      {first ? (
        <p className="mb-3 text-soft">
          This is the first release:{" "}
          {d.definition.procedure ? "processes can hand to it." : "the process opens for asking."}
        </p>
      ) : same ? (
        <p className="mb-3 text-soft">Nothing: the draft is what is live.</p>
      ) : (
        <ul className="mb-3">
          {changes.map((c, i) => (
            <li key={i} className="border-t border-line py-1">
              {c.what === "process" || c.what === "access" ? "" : `${c.what} `}
              <span className="font-medium">{c.name}</span> {c.how}
            </li>
          ))}
        </ul>
      )}
      <p className="mb-3 text-soft">
        {d.definition.procedure
          ? "Whatever hands to it next goes through this. What is in it already stays on the release it came in by."
          : "The next request uses it. Requests under way stay on the release they began with."}
      </p>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          start(async () => {
            const r = await proved(() => releaseAction(process, version, note));
            if (r.ok) {
              say(`${r.value.version} is live.`);
              setNote("");
              setSaid("");
              router.refresh();
            } else setSaid(r.sentence);
          });
        }}
      >
        <label htmlFor="version" className="mb-1 block">
          Version
        </label>
        <input
          id="version"
          className="input mb-3 !w-32"
          value={version}
          onChange={(e) => setVersion(e.target.value)}
        />
        <label htmlFor="release-note" className="mb-1 block">
          Note for those who come later
        </label>
        <textarea
          id="release-note"
          rows={2}
          className="input mb-3"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          placeholder="What changed, and why"
        />
        <Button look="main" type="submit" disabled={busy || d.unsaved || errors.length > 0 || same}>
          {busy ? "Releasing…" : `Release ${version}`}
        </Button>
        {d.unsaved && <span className="ml-3 text-sm text-soft">The last change is still on its way.</span>}
        {!d.unsaved && (errors.length > 0 || same) && (
          <span className="ml-3 text-sm text-soft">
            {same ? "There is nothing to release." : "Mend the errors first."}
          </span>
        )}
      </form>
    </section>
  );
}
