"use client";
import { Paperclip, X } from "lucide-react";
import { useRef } from "react";
import { fileMistakes, labelOf, type Field } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { Button, classes, sizeText } from "@/ui";
import { DropFiles, SaidOfFiles, SendingRow } from "./DropFiles";
import { acceptOf, emptyFile } from "./fileKinds";
import { FileLink } from "./FileLink";
import type { InputContext } from "./inputContext";
import { useSendFiles } from "./useSendFiles";

interface Props {
  field: Field;
  id: string;
  value: string | null;
  onChange(v: string | null): void;
  context: InputContext;
  invalid: boolean;
  describedBy?: string;
  compact?: boolean | undefined;
  label: string;
}

/** One file: chosen or dropped, sent at once, so that it is kept with what is typed. */
export function FileInput({
  field,
  id,
  value,
  onChange,
  context,
  invalid,
  describedBy,
  compact,
  label,
}: Props) {
  const picker = useRef<HTMLInputElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const { under, said, send, stop } = useSendFiles(context, (file) => onChange(file.id));
  const file = value ? context.facts.files?.[value] : undefined;

  const take = ([chosen, ...more]: readonly File[]) => {
    if (!chosen) return;
    if (under.length > 0)
      return send(
        [],
        [`“${chosen.name}” was not taken: ${labelOf(field)} takes one file, and one is on its way.`],
      );
    const [wrong] = fileMistakes(field, chosen.name, chosen.size);
    if (wrong)
      return send(
        [],
        [formProblemSentence({ ...wrong, path: id, data: { field: labelOf(field), ...wrong.data } })],
      );
    if (chosen.size === 0) return send([], [emptyFile(chosen.name)]);
    const others = `${labelOf(field)} takes one file: “${chosen.name}” was taken, the others were not.`;
    send([chosen], more.length > 0 ? [others] : []);
  };
  const accept = acceptOf(field);
  const choose = compact ? "File" : "Choose a file";
  return (
    <DropFiles id={id} onDrop={take}>
      <input
        ref={picker}
        type="file"
        hidden
        accept={accept.join(",") || undefined}
        onChange={(e) => {
          take([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
      {under.map((u) => (
        <SendingRow key={u.key} file={u} onStop={() => stop(u.key)} />
      ))}
      {under.length === 0 && (
        <div className="flex min-h-[34px] flex-wrap items-center gap-x-2 gap-y-1">
          {file ? (
            <FileLink file={file} />
          ) : (
            value && <span className="text-soft">a file that is not there any more</span>
          )}
          <Button
            ref={button}
            id={id}
            small
            aria-describedby={describedBy}
            aria-invalid={invalid || undefined}
            className={classes(invalid && "!border-brick")}
            onClick={() => picker.current?.click()}
            aria-label={`${label}: ${value ? "replace the file" : "choose a file"}`}
          >
            {!value && <Paperclip size={14} aria-hidden />} {value ? "Replace" : choose}
          </Button>
          {value && (
            <button
              type="button"
              className="rounded p-1 text-faint hover:text-brick"
              aria-label={`Remove ${file?.name ?? "the file"}`}
              onClick={() => {
                onChange(null);
                button.current?.focus();
              }}
            >
              <X size={14} aria-hidden />
            </button>
          )}
          {!value && !compact && (
            <span className="text-sm text-faint">
              or drop it here{accept.length > 0 ? `; ${accept.join(", ")}` : ""}
              {field.max ? `; up to ${sizeText(Number(field.max) * 1_000_000)}` : ""}
            </span>
          )}
        </div>
      )}
      <SaidOfFiles said={said} />
    </DropFiles>
  );
}
