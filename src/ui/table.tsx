import type { ComponentProps, ReactNode } from "react";
import { classes } from "./classes";

/** The head of a column: its name, or that and how it is. */
export type Head =
  | string
  | {
      id: string;
      name: ReactNode;
      /** Read aloud only: a column of buttons. */
      hidden?: true;
      /** Figures stand at the right. */
      figures?: boolean;
      sorted?: "ascending" | "descending";
      /** In CSS pixels; as wide as it needs where nothing is said. */
      width?: number;
      /** Stands at its edge. */
      edge?: ReactNode;
      /** Left out where there is little room; its cells are too, by the same class. */
      spare?: true;
    };

/** Of the cells of a column that is left out where there is little room. */
export const SPARE = "max-2xl:hidden";

interface Props extends Omit<ComponentProps<"table">, "className"> {
  head: readonly Head[];
  /** The rows. */
  children: ReactNode;
  /** Of what it scrolls in, where that is not as high as the table. */
  within?: string;
  /** A second row of the head: a cell for each column, to say what is looked for in it. */
  filters?: ReactNode;
}

/** A list as a table with a head that stays; one that is wider than its place scrolls there. */
export function Table({ head, children, within = "overflow-x-auto", filters, ...rest }: Props) {
  return (
    <div className={within}>
      <table className="sheet-table" {...rest}>
        <thead>
          <tr>{head.map(heading)}</tr>
          {filters && <tr className="filter-row">{filters}</tr>}
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

function heading(h: Head) {
  if (typeof h === "string") return <th key={h}>{h}</th>;
  return (
    <th
      key={h.id}
      aria-sort={h.sorted}
      className={classes(
        h.figures && "!text-right",
        h.spare && SPARE,
        h.width !== undefined && "overflow-hidden",
      )}
      {...(h.width ? { style: { width: h.width, minWidth: h.width, maxWidth: h.width } } : {})}
    >
      {h.hidden ? <span className="sr-only">{h.name}</span> : h.name}
      {h.edge}
    </th>
  );
}
