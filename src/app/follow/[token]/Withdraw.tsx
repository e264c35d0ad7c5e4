"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Button, Dialog, Field } from "@/ui";
import { withdrawFollowedAction } from "../../actions/outside";

/** Takes back what was sent, once somebody has said so twice. */
export function Withdraw({ token, number }: { token: string; number: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const withdraw = () =>
    start(async () => {
      const r = await withdrawFollowedAction(token, note).catch(() => null);
      if (!r?.ok)
        return setWrong(r ? r.sentence : "The server could not be reached. Nothing was done; try again.");
      setOpen(false);
      router.refresh();
    });
  return (
    <p className="mt-8 border-t border-line pt-4">
      <Button look="quiet" onClick={() => setOpen(true)}>
        Withdraw it
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title={`Withdraw ${number}?`}>
        <p className="mb-3">It ends with that, and nobody deals with it any more.</p>
        {wrong && (
          <p role="alert" className="mb-2 text-brick">
            {wrong}
          </p>
        )}
        <Field label="Why, if you want to say so">
          {(p) => (
            <textarea
              {...p}
              className="input"
              rows={3}
              maxLength={4000}
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
          )}
        </Field>
        <p className="mt-4 flex flex-wrap gap-2">
          <Button look="brick" disabled={busy} onClick={withdraw}>
            Withdraw
          </Button>
          <Button disabled={busy} onClick={() => setOpen(false)}>
            Leave it
          </Button>
        </p>
      </Dialog>
    </p>
  );
}
