import type { ComponentProps } from "react";
import { classes } from "./classes";

export type Choice = string | { value: string; label: string };
/** Choices under a heading. */
export interface Choices {
  heading: string;
  of: readonly Choice[];
}

interface Props extends Omit<ComponentProps<"select">, "onChange" | "children"> {
  options: readonly (Choice | Choices)[];
  /** What stands first, for nothing chosen. */
  empty?: string;
  onPick?(value: string): void;
  /** As an input of its own, or within the cell of a sheet. */
  look?: "input" | "cell";
}

/**
 * One of several. The browser draws the list: on a phone it is the phone's own wheel, first letters and arrow keys work
 * as people know them, and three hundred of them on a sheet cost nothing. (A list of Radix's makes some ten components
 * each before anybody opens it.)
 */
export function Select({ options, empty, onPick, look = "input", className, ...rest }: Props) {
  return (
    // eslint-disable-next-line no-restricted-syntax -- here it is made
    <select
      {...rest}
      className={classes(look, className)}
      {...(onPick ? { onChange: (e) => onPick(e.target.value) } : {})}
    >
      {empty !== undefined && <option value="">{empty}</option>}
      {options.map((o) =>
        typeof o === "object" && "of" in o ? (
          <optgroup key={o.heading} label={o.heading}>
            {o.of.map(option)}
          </optgroup>
        ) : (
          option(o)
        ),
      )}
    </select>
  );
}

function option(o: Choice) {
  const { value, label } = typeof o === "string" ? { value: o, label: o } : o;
  return (
    <option key={value} value={value}>
      {label}
    </option>
  );
}
