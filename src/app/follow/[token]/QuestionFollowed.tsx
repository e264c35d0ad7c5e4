"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Followed } from "@/services";
import { Banner, Button, whenText } from "@/ui";
import { sayFollowedAction } from "../../actions/outside";
import { useHeldText } from "../../shell/useHeldText";

/** Something whoever follows a request is asked, and the answer to it. */
export function QuestionFollowed({
  token,
  question: { task, text, by, at },
  zone,
}: {
  token: string;
  question: Followed["questions"][number];
  zone: string;
}) {
  const router = useRouter();
  // Which link it came by, without what opens it.
  const { text: said, put, sent } = useHeldText(`follow ${token.slice(0, 8)} ${task}`);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const send = () =>
    start(async () => {
      if (said.trim() === "") return setWrong("Write your answer first.");
      const r = await sayFollowedAction(token, task, said).catch(() => null);
      if (!r) return setWrong("The server could not be reached. Nothing is lost; try again in a moment.");
      if (!r.ok) return setWrong(r.sentence);
      sent();
      router.refresh();
    });
  return (
    <form
      className="mb-5"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <blockquote className="mb-3 border-l-[3px] border-slate pl-3 break-words whitespace-pre-wrap">
        {text}
        <footer className="text-sm text-soft">
          {by ? `${by}, ` : ""}
          {whenText(at, zone)}
        </footer>
      </blockquote>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <label className="mb-1 block" htmlFor={`answer-${task}`}>
        Your answer
      </label>
      <textarea
        id={`answer-${task}`}
        className="input mb-2"
        rows={4}
        maxLength={4000}
        value={said}
        onChange={(e) => put(e.target.value)}
      />
      <Button look="main" type="submit" disabled={busy}>
        {busy ? "Sending…" : "Send the answer"}
      </Button>
    </form>
  );
}
