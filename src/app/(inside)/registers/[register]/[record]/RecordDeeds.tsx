"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, buttonClass, Dialog } from "@/ui";
import { putBackAction, removeRecordAction } from "../../../../actions/records";
import { say } from "../../../../shell/say";

/** What can be done with a record: change it, take it out. */
export function RecordDeeds({
  register,
  id,
  version,
  one,
  title,
  may,
  pointing,
}: {
  register: string;
  id: string;
  version: string;
  one: string;
  title: string;
  may: { change: boolean; remove: boolean };
  /** What points at it, in words; empty where nothing does. */
  pointing: string;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const [working, start] = useTransition();
  const remove = () =>
    start(async () => {
      const r = await removeRecordAction(register, id, version, pointing !== "").catch(() => null);
      if (!r?.ok) {
        setWrong(
          r?.sentence ?? "The server could not be reached. Nothing was removed; try again in a moment.",
        );
        return;
      }
      say(`${title} is removed.`);
      router.push(`/registers/${register}`);
    });
  return (
    <span className="flex flex-wrap items-center gap-2">
      {may.change && (
        <Link
          className={buttonClass("main", true)}
          href={`/registers/${register}/${id}/change`}
          prefetch={false}
        >
          Change
        </Link>
      )}
      {may.remove && (
        <Button small look="quiet" onClick={() => setOpen(true)}>
          Remove…
        </Button>
      )}
      <Dialog open={open} onOpenChange={setOpen} title={`Remove ${title}?`}>
        {wrong && <Banner tone="bad">{wrong}</Banner>}
        <p className="mb-4">
          {pointing
            ? `${pointing} point at it. Those links are emptied, and said in the history of each.`
            : "Nothing in the registers you see points at it."}{" "}
          What the {one} held stays in the history and can be put back.
        </p>
        <div className="flex gap-2">
          <Button look="brick" disabled={working} onClick={remove}>
            {working ? "Removing…" : `Remove this ${one}`}
          </Button>
          <Button look="quiet" onClick={() => setOpen(false)}>
            Keep it
          </Button>
        </div>
      </Dialog>
    </span>
  );
}

/** Takes one change of a record back. */
export function PutBack({ register, change, what }: { register: string; change: string; what: string }) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [working, start] = useTransition();
  return (
    <>
      <button
        type="button"
        className="text-sm text-soft underline hover:text-ink"
        aria-label={`Put back: ${what}`}
        disabled={working}
        onClick={() =>
          start(async () => {
            const r = await putBackAction(register, change).catch(() => null);
            if (!r?.ok)
              return setWrong(r?.sentence ?? "The server could not be reached. Try again in a moment.");
            setWrong("");
            say("It is as it was before that change.");
            router.push(`/registers/${register}/${r.value.id}`);
            router.refresh();
          })
        }
      >
        Put back
      </button>
      {wrong && (
        <p role="alert" className="text-sm text-brick">
          {wrong}
        </p>
      )}
    </>
  );
}
