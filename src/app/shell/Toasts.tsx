"use client";
import { useEffect } from "react";
import { Toaster, toast } from "sonner";
import type { Said } from "./say";

const LOOK = {
  style: {
    background: "var(--raised)",
    color: "var(--ink)",
    border: "1px solid var(--line-strong)",
    borderRadius: 4,
    fontFamily: "var(--font-sans)",
  },
};

export default function Toasts({ said, onShown }: { said: readonly Said[]; onShown(count: number): void }) {
  // Runs after the toaster's own effect, by which it starts to listen.
  useEffect(() => {
    for (const s of said) (s.tone === "good" ? toast.success : toast.error)(s.sentence);
    if (said.length > 0) onShown(said.length);
  }, [said, onShown]);
  return <Toaster position="bottom-right" toastOptions={LOOK} />;
}
