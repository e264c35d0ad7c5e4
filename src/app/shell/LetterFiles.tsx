"use client";
import { Paperclip, X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { sendFile } from "@/forms";
import { Button, sizeText } from "@/ui";

export interface AddedFile {
  id: string;
  name: string;
  size: number;
}

/** The files of a letter: each is sent at once when it is added, so that it is kept with what is typed. */
export function LetterFiles({
  files,
  put,
}: {
  files: readonly AddedFile[];
  /** With those there are by then: several come in at once. */
  put(change: (now: AddedFile[]) => AddedFile[]): void;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const [coming, setComing] = useState(0);
  const [wrong, setWrong] = useState("");
  // What is typed while a file is on its way must not be lost to what was there when it set out.
  const change = useRef(put);
  useEffect(() => {
    change.current = put;
  });
  const add = async (chosen: File[]) => {
    setWrong("");
    setComing((n) => n + chosen.length);
    // One after the other: each is put beside those that have come by then.
    for (const file of chosen) {
      const r = await sendFile(file, () => undefined).done;
      setComing((n) => n - 1);
      if (r.ok) {
        const { id, name, size } = r.file;
        change.current((now) => [...now, { id, name, size }]);
      } else setWrong(r.sentence);
    }
  };
  return (
    <div>
      {files.length > 0 && (
        <ul aria-label="Files of the letter" className="mb-1">
          {files.map((f) => (
            <li key={f.id} className="flex items-center gap-2">
              <span className="min-w-0 truncate">{f.name}</span>
              <span className="text-sm whitespace-nowrap text-soft">{sizeText(f.size)}</span>
              <Button
                small
                look="quiet"
                aria-label={`Take away ${f.name}`}
                onClick={() => put((now) => now.filter((x) => x.id !== f.id))}
              >
                <X className="size-3.5" aria-hidden />
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Button small disabled={coming > 0} onClick={() => picker.current?.click()}>
        <Paperclip className="size-3.5" aria-hidden />
        {coming > 0 ? `Sending ${coming === 1 ? "a file" : `${coming} files`}…` : "Add a file"}
      </Button>
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        aria-label="A file for the letter"
        onChange={(e) => {
          const chosen = [...(e.target.files ?? [])];
          e.target.value = "";
          void add(chosen);
        }}
      />
      {wrong && (
        <p role="alert" className="text-sm text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}
