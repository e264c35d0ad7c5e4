"use client";
import { useEffect, useState } from "react";
import { tryForAll, type TriedStep } from "@/core/engine";
import { Button, numberText } from "@/ui";
import { useDraft } from "../parts";

/** Milliseconds it works before the page goes on. */
const AT_A_TIME_MS = 30;
const list = (of: readonly string[]) => of.join(", ");

/** The rules of all steps, tried for the request of everybody here: whose would be asked of nobody. */
export function TriedForAll() {
  const d = useDraft();
  const [run, setRun] = useState(0);
  const [tried, setTried] = useState<number | TriedStep[] | null>(null);
  const { turn, facts, sample } = d;
  useEffect(() => {
    if (run === 0 || !turn) return;
    const walk = tryForAll(turn.release, facts, sample?.data ?? {});
    let timer: ReturnType<typeof setTimeout>;
    const goOn = () => {
      const until = performance.now() + AT_A_TIME_MS;
      let next = walk.next();
      while (!next.done && performance.now() < until) next = walk.next();
      setTried(next.value);
      if (!next.done) timer = setTimeout(goOn, 0);
    };
    timer = setTimeout(goOn, 0);
    // Left, or the draft has changed: what it was tried on is not so any more.
    return () => clearTimeout(timer);
  }, [run, turn, facts, sample]);
  if (!turn) return null;
  const busy = typeof tried === "number";
  return (
    <section className="mt-3 border-t border-line pt-3" aria-label="Tried for everybody">
      <div className="flex flex-wrap items-center gap-3">
        <Button small disabled={busy} onClick={() => setRun((n) => n + 1)}>
          Try it for everybody
        </Button>
        <span role="status" className="text-sm text-soft">
          {busy && `${numberText(String(tried))} tried…`}
          {tried === null && "Whose request would find nobody to ask, with every choice the rules read."}
          {Array.isArray(tried) && saysAll(tried)}
        </span>
      </div>
      {Array.isArray(tried) && (
        <ul className="mt-2 grid gap-1 text-sm">
          {tried.map((t) => (
            <TriedLine key={t.step} tried={t} />
          ))}
        </ul>
      )}
    </section>
  );
}

function saysAll(tried: readonly TriedStep[]): string {
  const trials = tried.reduce((n, t) => n + t.trials, 0);
  const bad = tried.filter((t) => t.nobody > 0 || t.unclear > 0 || t.twice.length > 0).length;
  const said = `${numberText(String(trials))} tried:`;
  const part = tried.some((t) => t.hangs || t.left > 0 || t.untried.length > 0);
  if (bad === 0 && part) return `${said} each finds somebody, as far as it was tried.`;
  return bad === 0
    ? `${said} each finds somebody.`
    : `${said} see ${bad === 1 ? "the step" : "the steps"} below.`;
}

/** What is to be told of one step; nothing where it always finds somebody, and all was tried. */
function TriedLine({ tried: t }: { tried: TriedStep }) {
  const d = useDraft();
  const name = (id: string) => d.factsData.people[id]?.name ?? id;
  const step = d.turn?.release.places.get(t.step);
  const says: string[] = [];
  if (t.hangs) says.push("it hangs on who answers another step or what that comes to, and was not tried.");
  if (t.nobody > 0) {
    const first = t.first.map(
      ({ person, chosen }) =>
        `${name(person)}${chosen.length > 0 ? ` (${list(chosen.map(([f, v]) => `${f}: ${v}`))})` : ""}`,
    );
    const more = t.nobody > first.length ? ` and ${t.nobody - first.length} more` : "";
    says.push(`nobody is found in ${t.nobody} of ${t.trials}: ${list(first)}${more}.`);
  }
  for (const { before, count, first } of t.twice) {
    const from = d.turn?.release.places.get(before);
    const one = first[0]!;
    says.push(
      `it asks whom ${from?.number ?? ""} ${from?.step.name ?? before} asks right before it in ${count} ${count === 1 ? "request" : "requests"}: ${name(one.asked)} in that of ${name(one.person)}, for example.`,
    );
  }
  if (t.unclear > 0) says.push(`it cannot be worked out in ${t.unclear} of ${t.trials}.`);
  if (t.untried.length > 0) says.push(`of ${list(t.untried)} only what the sample has was tried.`);
  if (t.left > 0) says.push(`for ${t.left} more people it was not tried: there is time for so many trials.`);
  if (says.length === 0 || !step) return null;
  return (
    <li className={t.nobody > 0 ? "text-brick" : undefined}>
      {step.number} {step.step.name}: {says.join(" ")}
    </li>
  );
}
