"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import { arrangedFields, labelOf, type Field, type FormShows } from "@/core/form";
import { Button, classes, Pebble } from "@/ui";
import { focusAt } from "./focusAt";
import { FormRows, isVisible } from "./FormRows";
import { GuidedForm } from "./GuidedForm";
import { PassedBefore } from "./PassedBefore";
import { Passing } from "./Passing";
import { ProblemList } from "./ProblemList";
import { Prose } from "./Prose";
import { useForm, type FormAtHand, type FormProps } from "./useForm";

export interface FormViewProps extends FormProps {
  /** How it is shown where nothing else is said for where it stands. */
  shows?: FormShows;
  /** Of a guided form: whether all of it has been gone through, and is to be looked over and sent. */
  onEnd?(ended: boolean): void;
  /** What happens once it is sent, in sentences; read at the end of a guided form. */
  next?: readonly string[];
}

/** A form as its people see it, laid out as its owner wants it there. */
export function FormView(props: FormViewProps) {
  const { source, complain = false } = props;
  const form = useForm(props);
  const fields = useMemo(
    () => arrangedFields(source.form.fields, source.layout),
    [source.form.fields, source.layout],
  );
  const { heading, help } = source.layout ?? {};
  const shows = form.editing ? (source.layout?.shows ?? props.shows ?? "pages") : "together";
  const common = { form, fields, complain };
  return (
    <>
      {heading && <h2 className="mb-2 !text-xl">{heading}</h2>}
      {/* No formulas stand in it: a brace is a brace. */}
      {help && <Prose text={help.replaceAll("{", "{{")} values={[]} />}
      <PassedBefore passed={source.passed ?? []} />
      {shows === "guided" && <GuidedForm {...common} onEnd={props.onEnd} next={props.next ?? []} />}
      {shows === "pages" && <PagedForm {...common} />}
      {shows === "together" && <WholeForm {...common} />}
      {shows !== "guided" && <Passing form={form} problems={form.passing} />}
    </>
  );
}

interface Props {
  form: FormAtHand;
  fields: readonly Field[];
  complain: boolean;
}

/** Being told that something is wrong takes the person there, also to another page of the form. */
function useTakenThere({ form, complain }: Props, goTo: (path: string) => void) {
  const complained = useRef(false);
  const { problems } = form;
  useEffect(() => {
    if (complain && !complained.current && problems[0]) goTo(problems[0].path);
    complained.current = complain;
  }, [complain, problems, goTo]);
}

/** All that needs another look, above the form, for whoever was told so; one of them alone has the focus already. */
function Wrong({ form, complain, onGoTo }: Props & { onGoTo(path: string): void }) {
  if (!complain || form.problems.length < 2) return null;
  return (
    <nav aria-label="What needs another look" className="mb-4">
      <ProblemList problems={form.problems} onGoTo={onGoTo} />
    </nav>
  );
}

function WholeForm(p: Props) {
  useTakenThere(p, focusAt);
  return (
    <div>
      <Wrong {...p} onGoTo={focusAt} />
      <FormRows form={p.form} fields={p.fields} />
    </div>
  );
}

const contains = (group: Field, id: string): boolean =>
  (group.fields ?? []).some((f) => f.id === id || contains(f, id));

function PagedForm(p: Props) {
  const { form, fields } = p;
  const [page, setPage] = useState(0);
  const pages = fields.filter((f) => f.kind === "page" && isVisible(form, f));
  const at = Math.min(page, Math.max(pages.length - 1, 0));
  const goTo = (path: string) => {
    const on = pages.findIndex((x) => contains(x, path.split("/")[0]!));
    if (on >= 0) setPage(on);
    focusAt(path);
  };
  useTakenThere(p, goTo);
  return (
    <div>
      <Wrong {...p} onGoTo={goTo} />
      {pages.length > 1 && (
        <nav aria-label="Pages of the form" className="mb-4 flex flex-wrap gap-x-5 gap-y-1">
          {pages.map((x, i) => {
            const bad = form.problems.some((y) => contains(x, y.path.split("/")[0]!));
            return (
              <button
                key={x.id}
                type="button"
                aria-current={i === at ? "step" : undefined}
                onClick={() => setPage(i)}
                className={classes(
                  "flex items-center gap-2 rounded py-1 pr-1",
                  i === at ? "font-medium" : "text-soft hover:text-ink",
                )}
              >
                <Pebble tone={i === at ? "here" : "plain"}>{String(i + 1)}</Pebble> {labelOf(x)}
                {bad && <span className="text-sm text-brick">look again</span>}
              </button>
            );
          })}
        </nav>
      )}
      <FormRows
        form={form}
        fields={fields.filter((f) => pages.length < 2 || f.kind !== "page" || f.id === pages[at]?.id)}
      />
      {pages.length > 1 && (
        <div className="mt-4 flex gap-2">
          <Button small disabled={at === 0} onClick={() => setPage(at - 1)}>
            Back
          </Button>
          <Button small disabled={at === pages.length - 1} onClick={() => setPage(at + 1)}>
            Next: {pages[at + 1] ? labelOf(pages[at + 1]!) : "nothing more"}
          </Button>
        </div>
      )}
    </div>
  );
}
