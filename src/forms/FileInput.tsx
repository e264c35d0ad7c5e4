"use client";
import { Paperclip, X } from "lucide-react";
import { useEffect, useRef, useState, type DragEvent } from "react";
import { fileMistakes, labelOf, type Field } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { Button, classes, sizeText } from "@/ui";
import type { InputContext } from "./inputContext";
import { FileLink } from "./FileLink";
import { useFilesAt } from "./filesAt";
import { sendFile, type Sending } from "./sendFile";

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
  const at = useFilesAt();
  const picker = useRef<HTMLInputElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const [sending, setSending] = useState<{ name: string; share: number; by: Sending } | null>(null);
  const [said, setSaid] = useState("");
  const [over, setOver] = useState(false);
  const { busy } = context;
  const file = value ? context.facts.files?.[value] : undefined;
  const under = useRef<Sending | null>(null);
  // Whoever types elsewhere while a file is on its way must not lose it to what the form was when the file set out.
  const change = useRef(onChange);
  useEffect(() => {
    change.current = onChange;
  });
  // A field that goes away takes what is on its way with it.
  useEffect(() => () => under.current?.cancel(), []);

  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    const wrong = fileMistakes(field, chosen.name, chosen.size)[0];
    if (wrong)
      return setSaid(
        formProblemSentence({ ...wrong, path: id, data: { field: labelOf(field), ...wrong.data } }),
      );
    if (chosen.size === 0) return setSaid(`"${chosen.name}" is empty.`);
    setSaid("");
    const by = sendFile(chosen, (share) => setSending((s) => s && { ...s, share }), at);
    under.current = by;
    setSending({ name: chosen.name, share: 0, by });
    busy(1);
    const r = await by.done;
    busy(-1);
    under.current = null;
    setSending(null);
    if (!r.ok) return setSaid(r.sentence);
    context.learnFile(r.file);
    change.current(r.file.id);
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    void take(e.dataTransfer.files[0]);
  };
  const kinds = (field.options ?? []).map((o) => `.${o.replace(/^\./, "")}`);
  const choose = compact ? "File" : "Choose a file";
  return (
    <div
      className={classes("rounded", over && "outline outline-2 outline-offset-2 outline-focus")}
      data-file={id}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <input
        ref={picker}
        type="file"
        hidden
        accept={kinds.join(",") || undefined}
        onChange={(e) => {
          void take(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
      {sending ? (
        <div className="flex min-h-[34px] items-center gap-2 text-sm">
          <progress
            className="h-1.5 w-24 accent-[var(--moss)]"
            value={sending.share}
            aria-label={`Sending ${sending.name}`}
          />
          <span className="min-w-0 truncate text-soft">{sending.name}</span>
          <Button small look="quiet" onClick={() => sending.by.cancel()}>
            Stop
          </Button>
        </div>
      ) : (
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
              or drop it here{kinds.length > 0 ? `; ${kinds.join(", ")}` : ""}
              {field.max ? `; up to ${sizeText(Number(field.max) * 1_000_000)}` : ""}
            </span>
          )}
        </div>
      )}
      <span role="status" className="block text-sm text-brick">
        {said}
      </span>
    </div>
  );
}
