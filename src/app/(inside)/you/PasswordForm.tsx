"use client";
import { useState, useTransition } from "react";
import { Banner, Button } from "@/ui";
import { changePasswordAction } from "../../actions/you";
import { say } from "../../shell/say";
import { useProof } from "../../shell/useProof";

/** Another password for oneself; all other sessions end with it. */
export function PasswordForm() {
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  return (
    <section aria-labelledby="password">
      <h2 id="password" className="mb-2">
        Password
      </h2>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <form
        className="grid max-w-md gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (password !== again) return setWrong("The two are not the same. Type both anew.");
          start(async () => {
            const r = await proved(() => changePasswordAction(password));
            if (!r.ok) return setWrong(r.sentence);
            setWrong("");
            setPassword("");
            setAgain("");
            say("Your password is changed. Everywhere else you are signed out.");
          });
        }}
      >
        <label className="block">
          <span className="mb-1 block text-sm">New password, at least 12 characters</span>
          <input
            type="password"
            autoComplete="new-password"
            required
            className="input"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </label>
        <label className="block">
          <span className="mb-1 block text-sm">Once more</span>
          <input
            type="password"
            autoComplete="new-password"
            required
            className="input"
            value={again}
            onChange={(e) => setAgain(e.target.value)}
          />
        </label>
        <span>
          <Button type="submit" disabled={busy}>
            Change my password
          </Button>
        </span>
      </form>
    </section>
  );
}
