"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { MailboxInput, MailboxShown } from "@/services";
import { Banner, Button, Select } from "@/ui";
import { putMailboxAction, removeMailboxAction } from "../../../actions/mail";
import { say } from "../../../shell/say";
import { useProof } from "../../../shell/useProof";
import { Line } from "../Line";

const BLANK: MailboxInput = {
  address: "",
  name: "",
  smtp: { host: "", port: 465 },
  imap: { host: "", port: 993 },
  security: "tls",
  user: "",
  password: "",
  checksBy: "",
  news: false,
};

const keptOf = ({ lookedAt: _, trouble: __, ...kept }: MailboxShown): MailboxInput => ({
  ...kept,
  password: null,
});

/** A mailbox as it is set up. */
export function MailboxForm({ box, done }: { box: MailboxShown | null; done(): void }) {
  const router = useRouter();
  const [said, setSaid] = useState<MailboxInput>(box ? keptOf(box) : BLANK);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const set = (patch: Partial<MailboxInput>) => setSaid({ ...said, ...patch });
  const after = (r: { ok: true } | { ok: false; sentence: string }, words: string) => {
    if (!r.ok) return setWrong(r.sentence);
    say(words);
    done();
    router.refresh();
  };
  const remove = () =>
    start(async () =>
      after(await proved(() => removeMailboxAction(box!.address)), `${box!.address} is removed.`),
    );
  return (
    <form
      className="grid gap-3 border-t border-line-strong py-4"
      aria-label={box ? `Change ${box.address}` : "Add a mailbox"}
      onSubmit={(e) => {
        e.preventDefault();
        start(async () =>
          after(await proved(() => putMailboxAction(box?.address ?? null, said)), `${said.address} is kept.`),
        );
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <Line
        label="Address"
        value={said.address}
        put={(address) => set({ address })}
        required
        readOnly={box !== null}
        placeholder="registry@example.org"
      />
      <Line
        label="Name receivers see"
        value={said.name}
        put={(name) => set({ name })}
        required
        placeholder="Quillhaven Registry"
      />
      <Server label="Sends by" of={said.smtp} put={(smtp) => set({ smtp })} example="smtp.example.org" />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={said.imap !== null}
          onChange={(e) => set({ imap: e.target.checked ? { host: said.smtp.host, port: 993 } : null })}
        />
        <span>it is read as well, so that replies come to their requests</span>
      </label>
      {said.imap && (
        <Server label="Read from" of={said.imap} put={(imap) => set({ imap })} example="imap.example.org" />
      )}
      <div>
        <label htmlFor="mail-security" className="mb-1 block text-sm">
          Encryption
        </label>
        <Select
          id="mail-security"
          className="max-w-96"
          value={said.security}
          onPick={(v) => set({ security: v as MailboxInput["security"] })}
          options={[
            { value: "tls", label: "from the first byte (ports 465 and 993)" },
            { value: "starttls", label: "asked for first (ports 587 and 143)" },
            { value: "none", label: "none: a server on this very machine" },
          ]}
        />
      </div>
      <Line
        label="User"
        value={said.user}
        put={(user) => set({ user })}
        required
        autoComplete="off"
        placeholder="mostly the address"
      />
      <Line
        label="Password"
        type="password"
        value={said.password ?? ""}
        put={(password) => set({ password: password === "" && box ? null : password })}
        autoComplete="new-password"
        placeholder={box ? "as it was" : ""}
      />
      <Line
        label="Who checks senders"
        value={said.checksBy}
        put={(checksBy) => set({ checksBy })}
        placeholder="nobody; or what your server calls itself"
      />
      <p className="max-w-prose text-sm text-soft">
        Your receiving server writes into each mail what it found out about its sender, under its own name.
        Only what that name has written is believed.
      </p>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={said.news} onChange={(e) => set({ news: e.target.checked })} />
        <span>people who want their news by mail get it from here</span>
      </label>
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        <Button onClick={done}>Leave as it was</Button>
        {box && (
          <Button look="brick" disabled={busy} onClick={remove}>
            Remove
          </Button>
        )}
      </div>
    </form>
  );
}

interface Place {
  host: string;
  port: number;
}
function Server({
  label,
  of,
  put,
  example,
}: {
  label: string;
  of: Place;
  put(to: Place): void;
  example: string;
}) {
  return (
    <div className="flex flex-wrap gap-3">
      <label className="block">
        <span className="mb-1 block text-sm">{label}</span>
        <input
          className="input !w-72"
          value={of.host}
          placeholder={example}
          onChange={(e) => put({ ...of, host: e.target.value.trim() })}
        />
      </label>
      <label className="block">
        <span className="mb-1 block text-sm">
          Port <span className="sr-only">({label.toLowerCase()})</span>
        </span>
        <input
          className="input !w-24"
          type="number"
          min={1}
          max={65535}
          value={of.port}
          onChange={(e) => put({ ...of, port: Number(e.target.value) })}
        />
      </label>
    </div>
  );
}
