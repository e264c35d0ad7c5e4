"use client";
import { isGroup, labelOf, type Field, type FormProblem } from "@/core/form";
import { FIELD_INPUTS } from "@/fields/inputs";
import { classes } from "@/ui";
import { FieldInput } from "./FieldInput";
import { LinesTable } from "./LinesTable";
import { problemsAt, saidOf } from "./problemsAt";
import { Prose } from "./Prose";
import { TextPicture } from "./TextPicture";
import type { FormAtHand } from "./useForm";
import { WorkedValue } from "./WorkedValue";

const rowsAbout = (about: readonly string[] | undefined, lines: string): ReadonlySet<string> =>
  new Set(about?.flatMap((a) => (a.startsWith(`${lines}/`) ? [a.slice(lines.length + 1)] : [])));

/** Whether anything of a field or a group can be seen now. */
export const isVisible = (form: Pick<FormAtHand, "access" | "result">, f: Field): boolean => {
  if (form.access(f.id) === "hide" || !form.result.shown.has(f.id)) return false;
  return !isGroup(f) || !!f.text || !!f.picture || (f.fields ?? []).some((x) => isVisible(form, x));
};

/** Fields below each other, each with its label; groups with what stands in them. */
export function FormRows({ form, fields }: { form: FormAtHand; fields: readonly Field[] }) {
  return fields.map((f) => {
    if (!isVisible(form, f)) return null;
    if (f.kind === "text block") return <TextRow key={f.id} form={form} field={f} />;
    return isGroup(f) ? (
      <GroupRow key={f.id} form={form} field={f} />
    ) : (
      <FieldRow key={f.id} form={form} field={f} />
    );
  });
}

interface RowProps {
  form: FormAtHand;
  field: Field;
}

const GroupText = ({ form, field }: RowProps) =>
  field.text ? <Prose text={field.text} values={form.result.texts.get(field.id) ?? []} /> : null;

function TextRow({ form, field }: RowProps) {
  return (
    <div
      data-field={field.id}
      className={classes("rounded-sm", form.chosen === field.id && "bg-slate-wash")}
      onPointerDown={(e) => {
        if (!form.onChoose) return;
        form.onChoose(field.id);
        e.stopPropagation();
      }}
    >
      {field.label && <p className="mb-1 font-serif font-semibold">{field.label}</p>}
      <GroupText form={form} field={field} />
      {field.picture && <TextPicture picture={field.picture} />}
    </div>
  );
}

function GroupRow({ form, field }: RowProps) {
  const found = problemsAt(form.problems, field.id);
  return (
    <fieldset
      data-field={field.id}
      className={classes("mb-5 min-w-0", form.chosen === field.id && "bg-slate-wash")}
      onPointerDown={() => form.onChoose?.(field.id)}
    >
      <legend className="mb-2 w-full border-b border-line pb-1 font-serif text-lg font-semibold">
        {labelOf(field)}
      </legend>
      <GroupText form={form} field={field} />
      {found.length > 0 && <p className="mb-2 text-sm text-brick">{saidOf(found)}</p>}
      <FormRows form={form} fields={field.fields ?? []} />
    </fieldset>
  );
}

function FieldRow({ form, field: f }: RowProps) {
  const { access, editing, narrow, problems, result } = form;
  const found = problemsAt(problems, f.id);
  const readOnly = !editing || f.worked !== undefined || access(f.id) !== "edit";
  const fact = readOnly && f.kind !== "lines";
  const helpId = `${f.id}-help`;
  const saidId = `${f.id}-said`;
  const described = [f.help && !readOnly ? helpId : "", found.length > 0 ? saidId : ""]
    .filter(Boolean)
    .join(" ");
  const label = (
    <>
      {labelOf(f)}
      {!readOnly && result.needed.has(f.id) && <span className="ml-1.5 text-sm text-faint">needed</span>}
    </>
  );
  return (
    <div
      data-field={f.id}
      onPointerDown={(e) => {
        if (form.onChoose) {
          form.onChoose(f.id);
          e.stopPropagation();
        }
      }}
      // Of line items the cell that was left, which is known by its path.
      onBlur={(e) => form.visit(e.target.id.startsWith(`${f.id}/`) ? [f.id, e.target.id] : [f.id])}
      className={classes(
        "rounded-sm",
        (!fact || narrow) && "mb-3",
        f.kind !== "lines" &&
          !narrow &&
          "grid grid-cols-[minmax(9rem,13rem)_minmax(0,1fr)] items-start gap-x-4",
        form.chosen === f.id && "bg-slate-wash outline outline-4 outline-slate-wash",
      )}
    >
      {readOnly || FIELD_INPUTS[f.kind].grouped ? (
        <span
          id={`${f.id}-label`}
          className={classes(
            "leading-snug",
            f.kind === "lines" ? "mb-1 block font-serif text-lg font-semibold" : "text-soft",
            // What stands above its value is nearer to it than to the field before.
            fact && narrow ? "text-sm" : "pt-[7px]",
          )}
        >
          {label}
        </span>
      ) : (
        <label htmlFor={f.id} className="pt-[7px] leading-snug text-soft">
          {label}
        </label>
      )}
      <div className="min-w-0">
        <FieldValue form={form} field={f} found={found} described={described} readOnly={readOnly} />
        {f.help && !readOnly && (
          <p id={helpId} className="mt-0.5 text-sm text-faint">
            {f.help}
          </p>
        )}
        {found.length > 0 && (
          <p id={saidId} className="mt-0.5 text-sm text-brick">
            {saidOf(found)}
          </p>
        )}
      </div>
    </div>
  );
}

function FieldValue({
  form,
  field: f,
  found,
  described,
  readOnly,
}: RowProps & { found: readonly FormProblem[]; described: string; readOnly: boolean }) {
  const { access, context, data, editing, facts, narrow, result } = form;
  if (f.kind === "lines")
    return (
      <LinesTable
        field={f}
        rows={Array.isArray(data[f.id]) ? (data[f.id] as never) : []}
        result={result}
        access={editing ? access : (id) => (access(id) === "hide" ? "hide" : "see")}
        context={context}
        problems={form.problems}
        onChange={(rows) => form.set(f.id, rows)}
        narrow={narrow}
        about={rowsAbout(form.about, f.id)}
      />
    );
  if (!readOnly)
    return (
      <FieldInput
        field={f}
        id={f.id}
        label={labelOf(f)}
        value={data[f.id]}
        onChange={(v) => form.set(f.id, v)}
        context={context}
        invalid={found.length > 0}
        {...(described ? { describedBy: described } : {})}
      />
    );
  const { Reading } = FIELD_INPUTS[f.kind];
  const value = result.data[f.id];
  if (Reading && typeof value === "string" && value !== "")
    return <Reading field={f} value={value} context={context} />;
  return (
    <div
      className={classes(
        "whitespace-pre-wrap break-words",
        !narrow && "min-h-[34px] pt-[7px]",
        f.kind === "money" && "font-medium",
      )}
      aria-labelledby={`${f.id}-label`}
    >
      {f.kind === "money" && result.data[f.id] ? "EUR " : ""}
      <WorkedValue
        field={f}
        value={result.data[f.id]}
        facts={facts}
        failed={found.length > 0 ? undefined : result.failed.get(f.id)}
      />
    </div>
  );
}
