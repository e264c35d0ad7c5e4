export { Button, buttonClass, type ButtonLook } from "./button";
export { classes } from "./classes";
export { Dialog } from "./dialog";
export { Banner, Empty, Kbd, Mark, PageHeader, type MarkTone } from "./page";
export { Pebble } from "./pebble";
export { Popover, PopoverClose } from "./popover";
export { sizeText } from "./size";
export { useSaveQueue } from "./useSaveQueue";
export { dateText, dayText, moneyText, numberText, whenText } from "./when";
