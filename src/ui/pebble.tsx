import { classes } from "./classes";

// A few stones to choose from by the text, so that neighbours differ but a row keeps its own.
const STONES = [
  "57% 43% 52% 48% / 48% 55% 45% 52%",
  "46% 54% 60% 40% / 55% 44% 56% 45%",
  "52% 48% 43% 57% / 42% 52% 48% 58%",
  "60% 40% 47% 53% / 53% 47% 53% 47%",
];
const TONES = {
  plain: "bg-pebble text-ink",
  here: "bg-moss text-on-moss",
  quiet: "bg-transparent text-soft border border-line-strong",
  stuck: "bg-brick text-sheet",
  chosen: "bg-slate text-sheet",
} as const;

/** A step number on its stone: the one ornament of the house. */
export function Pebble({
  children,
  tone = "plain",
  small = false,
}: {
  children: string;
  tone?: keyof typeof TONES;
  small?: boolean;
}) {
  const stone = STONES[[...children].reduce((n, c) => n + c.charCodeAt(0), 0) % STONES.length];
  return (
    <span
      className={classes(
        "inline-flex shrink-0 items-center justify-center font-medium leading-none",
        small ? "h-5 min-w-5 px-1 text-xs" : "h-[26px] min-w-[30px] px-1.5 text-sm",
        TONES[tone],
      )}
      style={{ borderRadius: stone }}
    >
      {children}
    </span>
  );
}
