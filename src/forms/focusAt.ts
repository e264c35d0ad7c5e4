const FOCUSABLE = "input, select, textarea, button, [tabindex]";

/**
 * Takes the focus to where a field, a cell or a table of lines stands, once that has been drawn.
 * @param path of the field; of a cell with its row, as "lines/1/price"
 */
export function focusAt(path: string) {
  requestAnimationFrame(() => {
    const cell = document.getElementById(path);
    const fields = [...document.querySelectorAll<HTMLElement>("[data-field]")];
    const field = fields.find((f) => f.dataset["field"] === path.split("/")[0]);
    const to = cell ?? field?.querySelector<HTMLElement>(FOCUSABLE);
    to?.focus({ preventScroll: true });
    // Under the bar at the top nothing is seen.
    (to ?? field)?.scrollIntoView({ block: "center" });
  });
}
