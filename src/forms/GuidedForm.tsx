"use client";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import {
  fieldsOfPart,
  guideParts,
  placeInGuide,
  type Field,
  type FormProblem,
  type GuidePart,
} from "@/core/form";
import { Button } from "@/ui";
import { ChangesOf } from "./ChangesOf";
import { focusAt } from "./focusAt";
import { FormRows, isVisible } from "./FormRows";
import { Passing } from "./Passing";
import { ProblemList } from "./ProblemList";
import type { FormAtHand } from "./useForm";

/** What stands on no page and under no section. */
const BEGINNING = "To begin";

interface Props {
  form: FormAtHand;
  fields: readonly Field[];
  complain: boolean;
  onEnd: ((ended: boolean) => void) | undefined;
  next: readonly string[];
}

/** A form one page at a time; at its end everything that is to be sent, with a way to each page. */
export function GuidedForm({ form, fields, complain, onEnd, next }: Props) {
  const all = useMemo(() => guideParts(fields, BEGINNING), [fields]);
  const shown = all.filter((p) => p.fields.some((f) => isVisible(form, f)));
  const [wanted, setWanted] = useState<string | null>(() => shown[0]?.id ?? null);
  const at = placeInGuide(all, shown, wanted);
  const index = shown.findIndex((p) => p.id === at);
  const part = shown[index] ?? null;
  const heading = useRef<HTMLHeadingElement>(null);
  const moved = useRef(false);
  const go = (to: string | null) => {
    moved.current = true;
    setWanted(to);
  };
  useEffect(() => {
    onEnd?.(at === null);
  }, [at, onEnd]);
  // Whoever reads by ear hears where they are; nobody's focus is taken before they have gone on.
  useEffect(() => {
    if (moved.current) heading.current?.focus();
  }, [at]);
  const wrongOn = (p: GuidePart, problems: readonly FormProblem[]) => {
    const ids = fieldsOfPart(p);
    return problems.filter((x) => ids.has(x.path.split("/")[0]!));
  };
  const goTo = (path: string) => {
    const on = shown.find((p) => fieldsOfPart(p).has(path.split("/")[0]!));
    if (on) setWanted(on.id);
    focusAt(path);
  };
  const complained = useRef(false);
  useEffect(() => {
    if (complain && !complained.current && form.problems[0]) goTo(form.problems[0].path);
    complained.current = complain;
  });
  const onward = () => {
    if (!part) return;
    // What the server said last may be mended by now: only it can tell, and it is asked at the end.
    const wrong = wrongOn(part, form.own);
    form.visit(wrong.map((p) => p.path));
    if (wrong[0]) focusAt(wrong[0].path);
    else go(shown[index + 1]?.id ?? null);
  };
  const onKey = (e: KeyboardEvent) => {
    const inLine = (e.target as HTMLElement).tagName === "INPUT";
    if (e.key !== "Enter" || !inLine || e.defaultPrevented || e.nativeEvent.isComposing) return;
    e.preventDefault();
    onward();
  };
  if (!part)
    return <ReadBack form={form} parts={shown} heading={heading} next={next} onGo={go} onGoTo={goTo} />;
  const wrong = wrongOn(part, form.problems);
  return (
    <div onKeyDown={onKey}>
      <Heading
        ref={heading}
        title={part.title}
        where={`${index + 1} of ${shown.length}${index + 1 === shown.length ? ", the last before the end" : ""}`}
      />
      {wrong.length > 0 && (
        <p role="alert" className="mb-3 text-brick">
          {wrong.length === 1 ? "One answer here needs" : `${wrong.length} answers here need`} another look.
        </p>
      )}
      {/* The heading of the page stands above; of its group only what is in it is drawn. */}
      <FormRows form={form} fields={part.fields.flatMap((f) => (f.kind === "page" ? bare(f) : [f]))} />
      <Passing form={form} problems={wrongOn(part, form.passing)} />
      <div className="mt-5 flex flex-wrap gap-2">
        {index > 0 && <Button onClick={() => go(shown[index - 1]!.id)}>Back</Button>}
        <Button look="main" onClick={onward}>
          {shown[index + 1] ? `Next: ${shown[index + 1]!.title}` : "Look it over"}
        </Button>
      </div>
    </div>
  );
}

/** The text of a page, and what stands on it. */
const bare = (page: Field): Field[] => [
  ...(page.text ? [{ ...page, kind: "text block" as const, fields: [], label: "" }] : []),
  ...(page.fields ?? []),
];

function Heading({
  title,
  where,
  ref,
}: {
  title: string;
  where: string;
  ref: React.Ref<HTMLHeadingElement>;
}) {
  return (
    <h2 ref={ref} tabIndex={-1} className="mb-4 border-b border-line pb-1 !text-xl outline-none">
      {title}
      <span className="ml-2 font-sans text-base font-normal text-soft">{where}</span>
    </h2>
  );
}

/** Everything that is to be sent, page by page, with what changed, what is wrong, and what happens next. */
function ReadBack({
  form,
  parts,
  heading,
  next,
  onGo,
  onGoTo,
}: {
  form: FormAtHand;
  parts: readonly GuidePart[];
  heading: React.Ref<HTMLHeadingElement>;
  next: readonly string[];
  onGo(part: string): void;
  onGoTo(path: string): void;
}) {
  const read = { ...form, editing: false, problems: [] };
  return (
    <div>
      <Heading ref={heading} title="Look it over" where="the end; nothing has been sent yet" />
      {form.all.length > 0 && (
        <div role="alert" className="mb-4 text-brick">
          <p>
            {form.all.length === 1 ? "One answer needs" : `${form.all.length} answers need`} another look:
          </p>
          <ProblemList problems={form.all} onGoTo={onGoTo} />
        </div>
      )}
      {parts.map((p) => (
        <section key={p.id} aria-label={p.title} className="mb-5">
          <div className="mb-1.5 flex items-baseline gap-3 border-b border-line">
            <h3 className="flex-1 font-serif text-lg font-semibold">{p.title}</h3>
            <button
              type="button"
              className="link min-h-6"
              aria-label={`Change ${p.title}`}
              onClick={() => onGo(p.id)}
            >
              Change
            </button>
          </div>
          <ChangesOf form={form} fields={p.fields} />
          <FormRows
            form={read}
            fields={p.fields.flatMap((f) => (f.kind === "page" ? (f.fields ?? []) : [f]))}
          />
        </section>
      ))}
      <Passing form={form} problems={form.passable} />
      {next.length > 0 && (
        <section aria-label="What happens next" className="mb-2">
          <h3 className="mb-1 font-serif text-lg font-semibold">What happens next</h3>
          {next.map((t) => (
            <p key={t} className="text-soft">
              {t}
            </p>
          ))}
        </section>
      )}
    </div>
  );
}
