"use client";
import { useState } from "react";
import { Select } from "@/ui";
import { Chip, SentChip, startRow, TextCell, useDraft } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
import type { PublicStart } from "./shape";

const ASKS: Record<PublicStart["asks"], string> = {
  nothing: "nobody is asked who they are",
  address: "name and e-mail are asked",
  confirmed: "an e-mail address is confirmed by a code",
};
const YES = {
  files: "files can be added",
  values: "what was sent is read again",
  staff: "names of people here are told",
} as const;

/** Where it is open, whose form it is, what is asked of whoever sends it, and what they see afterwards. */
export function Editor({ start, onChange }: StartEditorProps<"public">) {
  const key = useDraft((d) => d.definition.key);
  const { sent, ...always } = start;
  const allowed = (Object.keys(YES) as (keyof typeof YES)[]).filter((k) => start[k]).map((k) => YES[k]);
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      Public form at <span className="font-mono text-sm">/open/{key}</span>, of
      <Chip
        text={start.letterhead || "whose form is it?"}
        label="Whose form it is, and what is read before it"
        width={520}
      >
        {() => <Head start={start} onChange={onChange} />}
      </Chip>
      ;
      <Chip text={ASKS[start.asks]} label="What is asked of whoever sends it" width={440}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            <label className={startRow}>
              <span className="text-soft">Asked</span>
              <Select
                value={start.asks}
                onPick={(v) => onChange({ ...start, asks: v as PublicStart["asks"] })}
                options={[
                  { value: "nothing", label: "nothing: it is sent by somebody" },
                  { value: "address", label: "a name and an e-mail address" },
                  { value: "confirmed", label: "the same, and a code sent to that address" },
                ]}
              />
            </label>
            <p className="text-soft">
              With an address they get a letter with the number and a link by which they follow it, and hear
              of questions, changes and the end. Formulas read Requester.name and Requester.email.
            </p>
          </div>
        )}
      </Chip>
      ;
      <Chip text={allowed.join(", ") || "no files, no names"} label="What they may do and see" width={480}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            {(Object.keys(YES) as (keyof typeof YES)[]).map((k) => (
              <label key={k} className="flex items-baseline gap-2">
                <input
                  type="checkbox"
                  checked={start[k] === true}
                  onChange={(e) => {
                    const { [k]: _, ...rest } = start;
                    onChange(e.target.checked ? { ...start, [k]: true } : rest);
                  }}
                />
                {YES[k][0]!.toUpperCase() + YES[k].slice(1)}
              </label>
            ))}
            <p className="text-soft">
              Of registers they see what their keepers opened to people outside, and of this form what “who
              sees what” shows at the start.
            </p>
          </div>
        )}
      </Chip>
      then
      <SentChip
        sent={sent ?? {}}
        onChange={(to) => onChange(to.says || to.leads ? { ...always, sent: to } : always)}
      />
    </span>
  );
}

function Head({ start, onChange }: StartEditorProps<"public">) {
  const [text, setText] = useState(start.greeting ?? "");
  return (
    <div className="grid gap-1.5 text-sm">
      <div className={startRow}>
        <span className="text-soft">Whose form</span>
        <TextCell
          className="input"
          aria-label="Whose form it is"
          placeholder="Quillhaven Museums"
          value={start.letterhead}
          maxLength={200}
          onCommit={(t) => onChange({ ...start, letterhead: t.trim() })}
        />
      </div>
      <label className="grid gap-1">
        <span className="text-soft">What is read before the form</span>
        <textarea
          className="input"
          rows={5}
          maxLength={5000}
          value={text}
          placeholder="Tell us which objects you would like to borrow. We answer within ten working days."
          onChange={(e) => setText(e.target.value)}
          onBlur={() => {
            const { greeting: _, ...rest } = start;
            if (text !== (start.greeting ?? "")) onChange(text.trim() ? { ...start, greeting: text } : rest);
          }}
        />
      </label>
    </div>
  );
}
