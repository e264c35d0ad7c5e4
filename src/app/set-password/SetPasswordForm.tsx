"use client";
import { useActionState } from "react";
import { Banner, Button } from "@/ui";
import { setPasswordAction } from "../actions/signIn";

export function SetPasswordForm({ token }: { token: string }) {
  const [state, action, busy] = useActionState(setPasswordAction, null);
  return (
    <form action={action}>
      {state && <Banner tone="bad">{state.sentence}</Banner>}
      <input type="hidden" name="token" value={token} />
      <label htmlFor="password" className="mb-1 block">
        New password
      </label>
      <input
        id="password"
        name="password"
        type="password"
        autoComplete="new-password"
        required
        className="input mb-3"
      />
      <label htmlFor="again" className="mb-1 block">
        Once more
      </label>
      <input
        id="again"
        name="again"
        type="password"
        autoComplete="new-password"
        required
        className="input mb-4"
      />
      <Button look="main" type="submit" disabled={busy}>
        {busy ? "Setting…" : "Set it and sign in"}
      </Button>
    </form>
  );
}
