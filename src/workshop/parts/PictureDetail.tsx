"use client";
import { ImagePlus } from "lucide-react";
import { useRef, useState } from "react";
import type { PictureOfText } from "@/core/form";
import { Button } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Detail } from "./Detail";
import type { FieldEditorProps } from "./kindViews";
import { TextCell } from "./TextCell";

const GONE = "The picture did not get through: the server cannot be reached. Try again in a moment.";

/** The picture of a text: chosen, said in words, taken away. */
export function PictureDetail({ field, set }: Pick<FieldEditorProps, "field" | "set">) {
  const d = useDraft();
  const picker = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState("");
  const { picture } = field;
  const send = async (file: File) => {
    setBusy(true);
    setSaid("");
    const to = `/api/workshop/${encodeURIComponent(d.definition.key)}/pictures`;
    const headers = { "content-type": "application/octet-stream" };
    const r = await fetch(to, { method: "POST", body: file, headers }).catch(() => null);
    const is = (await r?.json().catch(() => null)) as
      (Omit<PictureOfText, "says"> & { sentence: string }) | null;
    setBusy(false);
    if (r?.status !== 201 || !is) return setSaid(is?.sentence ?? GONE);
    const { hash, width, height } = is;
    // What the one before showed is not what this one shows.
    set({ picture: { hash, width, height, says: "" } });
  };
  return (
    <Detail says="Picture">
      <div className="grid min-w-0 gap-2">
        <input
          ref={picker}
          type="file"
          hidden
          accept="image/jpeg,image/png,image/webp,image/gif"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) void send(file);
          }}
        />
        <div className="flex flex-wrap items-center gap-2">
          <Button
            small
            disabled={busy}
            aria-label={`${picture ? "Another picture" : "Choose a picture"} for ${field.name}`}
            onClick={() => picker.current?.click()}
          >
            <ImagePlus size={14} aria-hidden /> {chooseText(busy, picture !== undefined)}
          </Button>
          {picture && (
            <Button small look="quiet" onClick={() => set({ picture: null })}>
              Without a picture
            </Button>
          )}
        </div>
        {picture && (
          <TextCell
            className="input"
            aria-label={`What the picture of ${field.name} shows`}
            placeholder="What it shows, for whoever does not see it"
            maxLength={300}
            value={picture.says}
            onCommit={(t) => set({ picture: { ...picture, says: t.trim() } })}
          />
        )}
        <p role="status" className="text-sm text-brick empty:hidden">
          {said}
        </p>
      </div>
    </Detail>
  );
}

function chooseText(busy: boolean, there: boolean): string {
  if (busy) return "On its way…";
  return there ? "Another…" : "Choose…";
}
