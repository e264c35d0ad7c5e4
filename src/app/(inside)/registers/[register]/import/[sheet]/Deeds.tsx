"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, buttonClass } from "@/ui";
import { stopSheetAction, writeSheetAction } from "../../../../../actions/sheets";

/** What can be done with a sheet now: brought in, stopped, or another one begun. */
export function Deeds(p: { id: string; register: string; status: string; asking: number; some: boolean }) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const run = (deed: () => ReturnType<typeof stopSheetAction>) =>
    start(async () => {
      const r = await deed().catch(() => null);
      setWrong(r?.ok ? "" : (r?.sentence ?? "The server could not be reached. Try again."));
      router.refresh();
    });
  const ended = p.status === "done" || p.status === "stopped" || p.status === "failed";
  return (
    <span className="flex flex-wrap items-center gap-2">
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {!ended && (
        <Button look="quiet" disabled={busy} onClick={() => run(() => stopSheetAction(p.id))}>
          {p.status === "tried" ? "Leave it" : "Stop"}
        </Button>
      )}
      {p.status === "tried" && (
        <Button
          look="main"
          disabled={busy || !p.some}
          title={p.some ? undefined : "No row adds or changes anything"}
          onClick={() => run(() => writeSheetAction(p.id, p.asking))}
        >
          {busy ? "Beginning…" : "Bring it in"}
        </Button>
      )}
      {ended && (
        <Link className={buttonClass("plain")} href={`/registers/${p.register}/import`}>
          Another sheet
        </Link>
      )}
    </span>
  );
}
