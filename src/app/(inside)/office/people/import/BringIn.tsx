"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { ImportPreview } from "@/services";
import { Banner, Button } from "@/ui";
import { bringPeopleAction, previewPeopleAction } from "../../../../actions/people";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";

const EXAMPLE =
  "Name,E-mail,Job,Department,Site,Manager\nUna Quirke,una.quirke@quillhaven.example,Porter,Security,Tower House,Maeve Dunlea";
const several = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

/** A sheet of people, and beside it what it would change. */
export function BringIn() {
  const router = useRouter();
  const [csv, setCsv] = useState("");
  const [plan, setPlan] = useState<ImportPreview | null>(null);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const look = (text: string) =>
    start(async () => {
      const r = await previewPeopleAction(text);
      setPlan(r.ok ? r.value : null);
      setWrong(r.ok ? "" : r.sentence);
    });
  const bring = () =>
    start(async () => {
      if (!plan) return;
      const r = await proved(() => bringPeopleAction(csv, plan.version));
      if (!r.ok) return setWrong(r.sentence);
      say(`${several(r.value.added, "person", "people")} added, ${r.value.changed} changed.`);
      router.push("/office");
    });
  const some = plan !== null && plan.added.length + plan.changed.length > 0;
  return (
    <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
      {dialog}
      <section aria-labelledby="sheet" className="min-w-0">
        <h2 id="sheet" className="mb-2">
          The sheet
        </h2>
        <label className="mb-3 block">
          <span className="mb-1 block text-sm">A CSV file</span>
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            className="input"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (!file) return;
              if (file.size > 2_000_000) return setWrong("The sheet is too long: at most 2 MB are read.");
              void file.text().then((t) => {
                setCsv(t);
                look(t);
              });
            }}
          />
        </label>
        <label className="block">
          <span className="mb-1 block text-sm">or its rows; the first line names the columns</span>
          <textarea
            rows={12}
            className="input font-mono text-sm"
            value={csv}
            placeholder={EXAMPLE}
            onChange={(e) => {
              setCsv(e.target.value);
              setPlan(null);
            }}
          />
        </label>
        <p className="mt-2 mb-3 text-sm text-soft">
          Name and E-mail are needed; Job, Department, Site, Manager (name or e-mail), Working calendar and
          Time zone may stand beside them. People are told apart by their e-mail address.
        </p>
        <Button look={some ? "plain" : "main"} disabled={busy || csv.trim() === ""} onClick={() => look(csv)}>
          {busy ? "Looking…" : "Show what will change"}
        </Button>
      </section>
      <section aria-labelledby="changes" className="min-w-0" aria-live="polite">
        <h2 id="changes" className="mb-2">
          What will change
        </h2>
        {wrong && <Banner tone="bad">{wrong}</Banner>}
        {!plan && !wrong && <p className="text-soft">Nothing yet. Give a sheet, and it stands here.</p>}
        {plan && (
          <>
            <p className="mb-3">
              {several(plan.added.length, "person is", "people are")} added, {plan.changed.length} changed,{" "}
              {plan.same} already so, {plan.refused.length} refused.
              {plan.ignored.length > 0 && ` Left aside: ${plan.ignored.join(", ")}.`}
            </p>
            {some && (
              <p className="mb-4">
                <Button look="main" disabled={busy} onClick={bring}>
                  {busy ? "Bringing in…" : "Bring these in"}
                </Button>
                {plan.refused.length > 0 && (
                  <span className="ml-3 text-sm text-soft">Those refused are left out.</span>
                )}
              </p>
            )}
            <Rows title="Refused" rows={plan.refused.map((r) => ({ ...r, what: r.why }))} bad />
            <Rows
              title="Changed"
              rows={plan.changed.map((r) => ({
                ...r,
                what: r.what
                  .map((w) => `${w.field}: ${w.before || "empty"} → ${w.after || "empty"}`)
                  .join("; "),
              }))}
            />
            <Rows
              title="Added"
              rows={plan.added.map((r) => ({
                ...r,
                what: [r.to.email, r.to.jobTitle, r.to.department, r.to.site].filter(Boolean).join(", "),
              }))}
            />
          </>
        )}
      </section>
    </div>
  );
}

const SHOWN = 200;

function Rows({
  title,
  rows,
  bad = false,
}: {
  title: string;
  rows: { line: number; name: string; what: string }[];
  bad?: boolean;
}) {
  if (rows.length === 0) return null;
  return (
    <>
      <h3 className={bad ? "mb-1 text-brick" : "mb-1"}>{title}</h3>
      <ul className="mb-4">
        {rows.slice(0, SHOWN).map((r) => (
          <li key={r.line} className="border-t border-line py-1">
            <span className="tabular-nums text-faint">{r.line}</span>{" "}
            <span className="font-medium">{r.name || "without a name"}</span>{" "}
            <span className="text-soft">{r.what}</span>
          </li>
        ))}
      </ul>
      {rows.length > SHOWN && <p className="mb-4 text-soft">and {rows.length - SHOWN} more</p>}
    </>
  );
}
