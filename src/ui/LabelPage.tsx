import { classes } from "./classes";

/** A page that is parted into labels, small: those that are used already are hatched, those to come are begun. */
export function LabelPage({
  across,
  down,
  margin,
  skip = 0,
  total = 0,
  first = [],
  className,
}: {
  across: number;
  down: number;
  /** Millimetres around all of them. */
  margin: number;
  skip?: number;
  /** How many there are. */
  total?: number;
  /** What stands on the first of them, line by line. */
  first?: readonly (readonly string[])[];
  className?: string;
}) {
  return (
    <div aria-hidden className={classes("aspect-[210/297] border border-line-strong bg-white", className)}>
      <div
        className="grid h-full"
        style={{
          padding: `${(margin / 210) * 100}%`,
          gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`,
          gridTemplateRows: `repeat(${down}, minmax(0, 1fr))`,
        }}
      >
        {Array.from({ length: across * down }, (_, i) => {
          const cells = first[i - skip];
          const filled = i >= skip && i < skip + total;
          return (
            <div
              key={i}
              className={classes(
                "min-h-0 overflow-hidden border-[0.5px] border-dashed border-[#b9b0a2] p-0.5 text-[5px] leading-[1.25] text-black",
                i < skip && "bg-[repeating-linear-gradient(45deg,#d8d0c4_0_2px,transparent_2px_5px)]",
              )}
            >
              {cells
                ? cells
                    .filter((c, nth) => nth === 0 || c !== "")
                    .map((c, nth) => (
                      <p key={nth} className={classes("truncate", nth === 0 && "font-bold")}>
                        {c}
                      </p>
                    ))
                : filled && <p className="text-[#5f574c]">…</p>}
            </div>
          );
        })}
      </div>
    </div>
  );
}
