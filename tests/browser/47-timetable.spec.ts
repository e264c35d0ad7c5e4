import { expect, test } from "@playwright/test";
import { accessible, closeOver, newProcess } from "./people";

test("a start goes by a rule that is written, its mistakes and its next days said at once", async ({
  page,
}) => {
  await newProcess(page, "Count the ladders", "RUNG", ["Count"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Also let…" }).press("Enter");
  await page.getByRole("menuitem", { name: "it start by a timetable" }).press("Enter");
  const chip = page.getByRole("button", { name: /^On which days it starts/ });
  await chip.press("Enter");
  await page.getByRole("combobox", { name: "Every" }).selectOption("otherwise, by a rule");
  await page.getByLabel("Such as").selectOption("every third month, on its first Monday");
  await page.getByRole("textbox", { name: "Counted from" }).fill("2026-03-03");
  const rule = page.getByLabel("Rule", { exact: true });
  await expect(rule).toHaveValue("FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO");
  await accessible(page);
  await rule.fill("FREQ=MONTHLY;BYMONTHDAY=32");
  await expect(page.getByText("BYMONTHDAY is days from 1 to 31", { exact: false })).toBeVisible();
  await rule.press("Enter");
  await closeOver(page, chip);
  // What was typed stays, and stops a release until it is mended.
  await expect(page.getByText("On no day of the coming year.")).toBeVisible();
  await expect(page.getByText("BYMONTHDAY is days from 1 to 31", { exact: false }).first()).toBeVisible();
  await chip.press("Enter");
  await expect(rule).toHaveValue("FREQ=MONTHLY;BYMONTHDAY=32");
  await rule.fill("rrule:freq=weekly;interval=2;byday=tu,th");
  await page.keyboard.press("Tab");
  await closeOver(page, chip);
  await expect(chip).toContainText("every 2 weeks on Tuesday and Thursday, counted from 3 March 2026");
  // Whatever day the clock shows by now.
  await expect(page.getByText(/^Next: (Tue|Thu) .* · (Tue|Thu) /)).toBeVisible();
  await accessible(page);
});
