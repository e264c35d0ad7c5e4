"use client";
import { Paperclip, X } from "lucide-react";
import { useEffect, useRef } from "react";
import {
  fileMistakes,
  labelOf,
  megabytes,
  MOST_FILES,
  MOST_FILES_MB,
  type Field,
  type FileFacts,
  type ValueMistake,
} from "@/core/form";
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
  /** Ids of those that are there, in their order. */
  ids: readonly string[];
  onChange(ids: readonly string[]): void;
  context: InputContext;
  invalid: boolean;
  describedBy?: string;
  compact?: boolean | undefined;
  label: string;
}

/** Several files: chosen together or dropped, each sent at once and one after the other. */
export function FilesInput(p: Props) {
  const { field, id, ids, context, label } = p;
  const picker = useRef<HTMLInputElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  // Two may arrive before either is drawn: each is added to those that are there by then.
  const now = useRef(ids);
  useEffect(() => {
    now.current = ids;
  }, [ids]);
  const put = (next: readonly string[]) => {
    now.current = next;
    p.onChange(next);
  };
  const { under, said, send, stop } = useSendFiles(context, (file) => put([...now.current, file.id]));
  const known = ids.map((x): [string, FileFacts | undefined] => [x, context.facts.files?.[x]]);

  const take = (chosen: readonly File[]) => {
    const there = [...known.map(([, f]) => f?.size ?? 0), ...under.map((u) => u.size)];
    const { fit, wrong } = whatFits(field, id, there, chosen);
    send(fit, wrong);
  };
  const accept = acceptOf(field);
  return (
    <DropFiles id={id} onDrop={take}>
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        accept={accept.join(",") || undefined}
        onChange={(e) => {
          take([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
      {known.length > 0 && (
        <ul aria-label={`Files of ${label}`} className="grid gap-y-1">
          {known.map(([x, file]) => (
            <li key={x} className="flex min-h-[34px] items-center gap-x-2">
              {file ? (
                <FileLink file={file} inList />
              ) : (
                <span className="text-soft">a file that is not there any more</span>
              )}
              <button
                type="button"
                className="grid min-h-6 min-w-6 place-items-center rounded text-faint hover:text-brick max-sm:size-11"
                aria-label={`Remove ${file?.name ?? "the file"}`}
                onClick={() => {
                  put(now.current.filter((y) => y !== x));
                  button.current?.focus();
                }}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {under.map((u) => (
        <SendingRow key={u.key} file={u} onStop={() => stop(u.key)} />
      ))}
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-2 gap-y-1">
        <Button
          ref={button}
          id={id}
          small
          aria-describedby={p.describedBy}
          aria-invalid={p.invalid || undefined}
          className={classes(p.invalid && "!border-brick")}
          onClick={() => picker.current?.click()}
          aria-label={`${label}: ${known.length > 0 ? "add more files" : "choose files"}`}
        >
          <Paperclip size={14} aria-hidden /> {chooseText(known.length, p.compact)}
        </Button>
        {!p.compact && (
          <span className="text-sm text-faint">
            or drop them here{accept.length > 0 ? `; ${accept.join(", ")}` : ""}
            {field.max ? `; together up to ${sizeText(Number(field.max) * 1_000_000)}` : ""}
          </span>
        )}
      </div>
      <SaidOfFiles said={said} />
    </DropFiles>
  );
}

function chooseText(there: number, compact: boolean | undefined): string {
  if (compact) return there > 0 ? "More" : "Files";
  return there > 0 ? "Add more" : "Choose files";
}

/** Which of the chosen files can be taken beside those that are there, and what is said of the others. */
function whatFits(
  field: Field,
  path: string,
  there: readonly number[],
  chosen: readonly File[],
): { fit: File[]; wrong: string[] } {
  const said = (m: ValueMistake) =>
    formProblemSentence({ ...m, path, data: { field: labelOf(field), ...m.data } });
  const most = Number(field.max ?? MOST_FILES_MB) || MOST_FILES_MB;
  const out = { fit: [] as File[], wrong: [] as string[] };
  let [count, all] = [there.length, there.reduce((sum, n) => sum + n, 0)];
  for (const file of chosen) {
    const [wrong] = fileMistakes(
      { ...(field.options ? { options: field.options } : {}) },
      file.name,
      file.size,
    );
    const together = all + file.size;
    if (wrong) out.wrong.push(`“${file.name}”: ${said(wrong)}`);
    else if (file.size === 0) out.wrong.push(emptyFile(file.name));
    else if (count >= MOST_FILES)
      out.wrong.push(
        `“${file.name}” is left out. ${said({ code: "too-many-files", data: { value: String(count + 1), limit: String(MOST_FILES) } })}`,
      );
    else if (together > most * 1_000_000)
      out.wrong.push(
        `“${file.name}” is left out. ${said({ code: "files-too-large", data: { value: megabytes(together), limit: String(most) } })}`,
      );
    else {
      out.fit.push(file);
      count++;
      all = together;
    }
  }
  return out;
}
