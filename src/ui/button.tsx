import type { ComponentProps } from "react";
import { classes } from "./classes";

export type ButtonLook = "main" | "plain" | "quiet" | "brick";
const LOOKS: Record<ButtonLook, string> = {
  main: "bg-moss text-on-moss hover:bg-moss-deep border-transparent font-medium",
  plain: "bg-raised text-ink border-line-strong hover:border-ink",
  quiet: "bg-transparent text-ink border-transparent hover:bg-pebble",
  brick: "bg-raised text-brick border-brick hover:bg-brick-wash",
};

export const buttonClass = (look: ButtonLook = "plain", small = false): string =>
  classes(
    "inline-flex items-center justify-center gap-1.5 rounded border whitespace-nowrap no-underline transition-colors disabled:opacity-55",
    small ? "min-h-7 px-2 text-sm" : "min-h-[34px] px-3.5",
    LOOKS[look],
  );

export function Button({
  look = "plain",
  small = false,
  className,
  type = "button",
  ...rest
}: ComponentProps<"button"> & { look?: ButtonLook; small?: boolean }) {
  return <button type={type} className={classes(buttonClass(look, small), className)} {...rest} />;
}
