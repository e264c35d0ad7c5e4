"use client";
import { useState } from "react";
import { ANY, YESNO } from "@/core/expression";
import { flatFields, isGroup, MAIL_SCOPE, mailNames, sampleMailFacts } from "@/core/form";
import { Chip, FormulaCell, startRow, useDraft } from "@/workshop/parts";
import { Select } from "@/ui";
import type { StartEditorProps } from "../editor";

/** Which mail starts one, what it fills in, and what becomes of strangers'. */
export function Editor({ start, onChange }: StartEditorProps<"mail">) {
  const d = useDraft();
  const sample = d.sample && sampleMailFacts(d.sample);
  const names = sample && mailNames(sample, d.facts);
  const box = d.definition.mailbox;
  const fields = flatFields(d.definition.fields).filter((f) => !isGroup(f) && !f.worked);
  const of = (id: string) => start.values.find((v) => v.field === id)?.value ?? "";
  const put = (field: string, value: string) => {
    const others = start.values.filter((v) => v.field !== field);
    onChange({ ...start, values: value.trim() ? [...others, { field, value }] : others });
  };
  const { when: _, ...always } = start;
  const lost = start.values.filter((v) => !fields.some((f) => f.id === v.field));
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      By a mail to {box ?? "the process’s mailbox"}
      <Chip
        text={start.when ? `where ${start.when}` : "any that answers nothing"}
        label="Which mail starts it"
        width={560}
      >
        {() => (
          <div className="grid gap-1.5 text-sm">
            <div className={startRow}>
              <span className="text-soft">Where</span>
              <FormulaCell
                label="What must hold of the mail"
                placeholder={'any mail; or contains(lower case(Mail.subject), "offer")'}
                value={start.when ?? ""}
                scope={MAIL_SCOPE}
                wanted={YESNO}
                names={names}
                onCommit={(t) => onChange(t.trim() ? { ...always, when: t } : always)}
              />
            </div>
            <label className={startRow}>
              <span className="text-soft">Of strangers</span>
              <Select
                value={start.strangers}
                onPick={(v) => onChange({ ...start, strangers: v as typeof start.strangers })}
                options={[
                  { value: "take", label: "takes it as well" },
                  { value: "hold", label: "is held until an owner starts it" },
                  { value: "refuse", label: "is refused, with a letter" },
                ]}
              />
            </label>
            {start.strangers === "refuse" && (
              <div className="grid gap-1">
                <span className="text-soft" aria-hidden>
                  What the letter says
                </span>
                <Lines
                  value={start.refusal ?? ""}
                  placeholder="We take offers from people and houses we know. Please telephone us first."
                  onCommit={(refusal) => onChange({ ...start, refusal })}
                />
                <span className="text-soft">
                  It goes once, and only to senders the mail server vouches for; others hear nothing.
                </span>
              </div>
            )}
            <p className="text-soft">
              A stranger is whoever the office does not know, or whom the mail server does not vouch for.
            </p>
          </div>
        )}
      </Chip>
      <Chip
        text={start.values.length === 0 ? "fills in nothing" : `fills in ${start.values.length}`}
        label="What it fills in"
        width={620}
      >
        {() => (
          <div className="grid gap-1.5 text-sm">
            {fields.map((f) => (
              <div key={f.id} className={startRow}>
                <span className="truncate" title={f.name}>
                  {f.name}
                </span>
                <FormulaCell
                  label={`What ${f.name} begins with`}
                  placeholder={
                    f.kind === "lines"
                      ? "for a in Mail.attachments return {…: a}"
                      : "nothing; e.g. Mail.subject"
                  }
                  value={of(f.id)}
                  scope={MAIL_SCOPE}
                  wanted={ANY}
                  names={names}
                  onCommit={(t) => put(f.id, t)}
                />
              </div>
            ))}
            {lost.map((v) => (
              <button
                key={v.field}
                type="button"
                className="justify-self-start text-brick underline"
                onClick={() => put(v.field, "")}
              >
                Take away what fills in a field that is gone
              </button>
            ))}
            <p className="text-soft">
              Mail.sender, Mail.sender name, Mail.to, Mail.subject, Mail.text, Mail.attachments.
            </p>
          </div>
        )}
      </Chip>
    </span>
  );
}

/** A text of several lines, kept when one leaves it. */
function Lines({
  value,
  placeholder,
  onCommit,
}: {
  value: string;
  placeholder: string;
  onCommit(text: string): void;
}) {
  const [text, setText] = useState(value);
  return (
    <textarea
      className="input"
      aria-label="What the letter says"
      rows={4}
      maxLength={4000}
      value={text}
      placeholder={placeholder}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== value && onCommit(text)}
    />
  );
}
