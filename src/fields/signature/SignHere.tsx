"use client";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import type SignaturePad from "signature_pad";
import type { FileFacts } from "@/core/form";
import { sendFile, useFilesAt } from "@/forms/parts";
import { Button, classes } from "@/ui";
import { inkOnPaper, nameAsInk } from "./ink";

/** What a drawn one is kept as; one that is typed is kept by the name. */
const DRAWN = "Signature.png";
const MOST_LETTERS = 100;
const NOT_DRAWN = "Nothing is drawn yet. Draw your signature in the field, or type your name instead.";
const NOT_TYPED = "Type the name you sign with, for example Una Finch.";
const NO_PICTURE = "The picture of it could not be made. Try again, or type your name instead.";

interface Props {
  id: string;
  label: string;
  invalid: boolean;
  /** The form waits while a signature is on its way. */
  busy(by: 1 | -1): void;
  onSigned(file: FileFacts): void;
}

/**
 * Where somebody signs, by finger, pen or mouse, or by typing their name. What was drawn counts once they say so, or go on
 * to anything else: nobody loses it by sending the form.
 */
export function SignHere({ id, label, invalid, busy, onSigned }: Props) {
  const at = useFilesAt();
  const [typing, setTyping] = useState(false);
  const [name, setName] = useState("");
  const [said, setSaid] = useState("");
  const [sending, setSending] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad | null>(null);
  const held = useRef(false);

  const send = async (picture: Promise<Blob | null>, called: string) => {
    // Pressing a button also leaves for it: both send, and it goes once.
    if (held.current) return;
    held.current = true;
    setSaid("");
    setSending(true);
    busy(1);
    const made = await picture;
    // It goes on its way also where its page is left: whoever goes on has signed.
    const r = made
      ? await sendFile(new File([made], called, { type: "image/png" }), () => undefined, at).done
      : { ok: false as const, sentence: NO_PICTURE };
    held.current = false;
    busy(-1);
    setSending(false);
    if (r.ok) onSigned(r.file);
    else setSaid(r.sentence);
  };
  const drawn = async () => {
    if (!canvas.current || !pad.current || pad.current.isEmpty()) return setSaid(NOT_DRAWN);
    await send(inkOnPaper(canvas.current), DRAWN);
  };
  const typed = async () => {
    const is = name.trim().replace(/\s+/g, " ");
    if (!is) return setSaid(NOT_TYPED);
    const { fontFamily } = getComputedStyle(document.querySelector("h1") ?? document.body);
    // What stands before a stroke would be taken for a folder.
    await send(nameAsInk(is, fontFamily), `${is.replace(/[\\/]/g, "-")}.png`);
  };

  useEffect(() => {
    const on = canvas.current;
    if (typing || !on) return;
    let gone = false;
    // As many dots as the screen has; what is drawn already is drawn again where its size changes.
    const fit = () => {
      const ratio = Math.max(devicePixelRatio || 1, 1);
      const strokes = pad.current?.toData() ?? [];
      on.width = on.offsetWidth * ratio;
      on.height = on.offsetHeight * ratio;
      on.getContext("2d")?.scale(ratio, ratio);
      pad.current?.fromData(strokes);
    };
    const resized = new ResizeObserver(fit);
    // Loaded where somebody is to sign, and by no other form.
    void import("signature_pad").then(({ default: Pad }) => {
      if (gone) return;
      fit();
      pad.current = new Pad(on, { penColor: "#1d2733", minWidth: 0.8, maxWidth: 2.6 });
      resized.observe(on);
      pad.current.addEventListener("beginStroke", () => setSaid(""));
    });
    return () => {
      gone = true;
      resized.disconnect();
      pad.current?.off();
      pad.current = null;
    };
  }, [typing]);

  const left = useEffectEvent((to: EventTarget | null) => {
    if (to instanceof Node && box.current?.contains(to)) return;
    if (typing ? name.trim() !== "" : pad.current?.isEmpty() === false) void (typing ? typed() : drawn());
  });
  useEffect(() => {
    const gone = (e: Event) => left(e.target);
    document.addEventListener("pointerdown", gone, true);
    document.addEventListener("focusin", gone, true);
    return () => {
      document.removeEventListener("pointerdown", gone, true);
      document.removeEventListener("focusin", gone, true);
    };
  }, []);

  const saidId = `${id}-sign-said`;
  return (
    <div ref={box} className="max-w-md">
      {typing ? (
        <input
          className={classes("input font-serif !text-xl italic", invalid && "!border-brick")}
          aria-label={`${label}: your name`}
          aria-describedby={saidId}
          placeholder="Your name"
          maxLength={MOST_LETTERS}
          autoComplete="name"
          autoFocus
          value={name}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            // Enter sends the form, which is not what is meant here.
            e.preventDefault();
            void typed();
          }}
        />
      ) : (
        <div className="relative">
          <canvas
            ref={canvas}
            role="img"
            aria-label={`${label}: draw here, or type your name by the button below`}
            className={classes(
              "block h-40 w-full touch-none rounded border bg-white",
              invalid ? "border-brick" : "border-line-strong",
            )}
          />
          <span
            aria-hidden
            className="pointer-events-none absolute inset-x-6 bottom-8 border-b border-[#9aa4ae]"
          />
        </div>
      )}
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <Button id={id} small disabled={sending} onClick={() => void (typing ? typed() : drawn())}>
          {sending ? "Keeping it…" : "Sign"}
        </Button>
        {!typing && (
          <Button small look="quiet" disabled={sending} onClick={() => pad.current?.clear()}>
            Start over
          </Button>
        )}
        <Button
          small
          look="quiet"
          disabled={sending}
          onClick={() => {
            setSaid("");
            setTyping(!typing);
          }}
        >
          {typing ? "Draw it instead" : "Type your name instead"}
        </Button>
      </div>
      <span id={saidId} role="status" className="block text-sm text-brick">
        {said}
      </span>
    </div>
  );
}
