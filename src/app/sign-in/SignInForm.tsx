"use client";
import { useActionState, useState } from "react";
import { Banner, Button } from "@/ui";
import { signInAction } from "../actions/signIn";

export function SignInForm({ from }: { from: string }) {
  const [state, action, busy] = useActionState(signInAction, null);
  // Kept here, because a form is emptied once its action has run.
  const [email, setEmail] = useState("");
  return (
    <form action={action}>
      {state && <Banner tone="bad">{state.sentence}</Banner>}
      <input type="hidden" name="from" value={from} />
      <label htmlFor="email" className="mb-1 block">
        E-mail
      </label>
      <input
        id="email"
        name="email"
        type="email"
        autoComplete="username"
        required
        className="input mb-3"
        value={email}
        onChange={(e) => setEmail(e.target.value)}
      />
      <label htmlFor="password" className="mb-1 block">
        Password
      </label>
      <input
        id="password"
        name="password"
        type="password"
        autoComplete="current-password"
        required
        className="input mb-4"
      />
      <Button look="main" type="submit" disabled={busy}>
        {busy ? "Signing in…" : "Sign in"}
      </Button>
    </form>
  );
}
