import type { InputHTMLAttributes } from "react";

/** One line of a form of the office, below its label. */
export function Line({
  label,
  put,
  ...input
}: { label: string; put(v: string): void } & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <label className="block">
      <span className="mb-1 block text-sm">{label}</span>
      <input className="input max-w-96" {...input} onChange={(e) => put(e.target.value)} />
    </label>
  );
}
