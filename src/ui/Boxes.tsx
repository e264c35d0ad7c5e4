interface Props {
  label: string;
  options: readonly { value: string; label: string }[];
  chosen: readonly string[];
  onChoose(chosen: string[]): void;
}

/** Several of a few, each with a box of its own; they stay in the order they were chosen in. */
export function Boxes({ label, options, chosen, onChoose }: Props) {
  // What is offered no more is shown, so that it can be taken out.
  const gone = chosen.filter((v) => !options.some((o) => o.value === v)).map((v) => ({ value: v, label: v }));
  return (
    <span role="group" aria-label={label} className="flex flex-wrap gap-x-4 gap-y-1 self-center">
      {[...options, ...gone].map((o) => (
        <label key={o.value} className="flex items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            checked={chosen.includes(o.value)}
            onChange={(e) =>
              onChoose(e.target.checked ? [...chosen, o.value] : chosen.filter((v) => v !== o.value))
            }
          />
          {o.label}
        </label>
      ))}
    </span>
  );
}
