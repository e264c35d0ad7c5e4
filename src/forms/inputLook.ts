/** What every plain control of a form has in common: its id, its look, and what is said about it. */
export const inputLook = (p: {
  id: string;
  invalid: boolean;
  describedBy?: string | undefined;
  compact?: boolean | undefined;
  label: string;
}) => ({
  id: p.id,
  "aria-invalid": p.invalid || undefined,
  "aria-describedby": p.describedBy,
  ...(p.compact ? { "aria-label": p.label } : {}),
  className: p.compact ? "cell" : "input",
});
