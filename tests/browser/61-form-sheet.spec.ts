import { expect, test } from "@playwright/test";
import { accessible, focusOn, newProcess } from "./people";

test("rows are copied to another process, where their formulas go along, and looked at by what they do", async ({
  page,
}) => {
  await newProcess(page, "Lamp oil", "WICK", ["Reason", "Price", "Pieces", "Total"]);
  await page.getByLabel("Kind of Pieces", { exact: true }).selectOption("number");
  await page.getByLabel("Kind of Total", { exact: true }).selectOption("money");
  const total = page.getByLabel("Total: worked out as", { exact: true });
  await total.fill("Price * Pieces");
  await total.press("Enter");
  await focusOn(page.getByLabel("Name of Price", { exact: true }));
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("3 rows marked.")).toBeVisible();
  await accessible(page);
  await page.keyboard.press("Control+c");
  await expect(page.getByText("3 rows are copied.")).toBeVisible();
  // Only what is worked out, and the width somebody likes.
  await page.getByLabel("Which fields").selectOption("worked");
  await expect(page.getByLabel(/^Name of /)).toHaveCount(1);
  await expect(page.getByText("1 of 4 fields.")).toBeVisible();
  const edge = page.getByRole("separator", { name: "Width of Name" });
  const wide = async () => (await page.getByRole("columnheader", { name: /^Name/ }).boundingBox())!.width;
  const before = await wide();
  await focusOn(edge);
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowRight");
  await expect.poll(wide).toBeCloseTo(before + 80, -1);
  await page.getByRole("button", { name: "Show all fields" }).click();
  await expect(page.getByLabel(/^Name of /)).toHaveCount(4);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  // It is theirs wherever they sign in, and not their browser's.
  await expect(async () => {
    await page.reload();
    expect(await wide()).toBeCloseTo(before + 80, -1);
  }).toPass({ timeout: 60_000 });

  await newProcess(page, "Tallow", "TALLOW", ["Price", "Remark"]);
  expect(await wide()).toBeCloseTo(before + 80, -1);
  await focusOn(page.getByLabel("Name of Price", { exact: true }));
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Control+v");
  await expect(
    page.getByText("3 fields were added. Called otherwise than pasted: “Price” is “Price 2”."),
  ).toBeVisible();
  await expect(page.getByLabel("Total: worked out as", { exact: true })).toHaveValue("Price 2 * Pieces");
  await expect(page.getByLabel("Kind of Pieces", { exact: true })).toHaveValue("number");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Total: worked out as", { exact: true })).toHaveValue("Price 2 * Pieces");
  // Taken back for whoever works on a sheet next; a key pressed before the page listens is nobody's.
  await expect(async () => {
    await focusOn(edge);
    await page.keyboard.press("Home");
    expect(await wide()).toBeCloseTo(before, -1);
  }).toPass();
  await expect(async () => {
    await page.reload();
    expect(await wide()).toBeCloseTo(before, -1);
  }).toPass({ timeout: 60_000 });
});

test("who sees what is said by keys, many at once, and the form is seen as each of its people", async ({
  page,
}) => {
  await newProcess(page, "Oil for the lamp room", "SPOUT", ["Reason", "Remark", "Answer"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Step", exact: true }).click();
  await page.getByLabel("Kind of step").fill("Decide");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByRole("button", { name: "Who sees what" }).click();
  const cell = (field: string, how: string) =>
    page.getByRole("button", { name: new RegExp(`^${field} at (?!Start).*: ${how}`) });
  await focusOn(cell("Reason", "see"));
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("2 cells marked.")).toBeVisible();
  await page.keyboard.press("h");
  await expect(cell("Reason", "hide")).toBeVisible();
  await expect(cell("Remark", "hide")).toBeVisible();
  await expect(cell("Answer", "see")).toBeVisible();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("e");
  await expect(cell("Answer", "edit")).toBeVisible();
  await accessible(page);

  const live = page.getByRole("region", { name: "Live form" });
  await live.getByLabel("At").selectOption({ index: 1 });
  await expect(live.getByText("Reason")).toBeHidden();
  await expect(live.getByLabel("Answer")).toBeVisible();
  // Whoever asked goes on reading what they filled in, and fills in nothing more.
  await live.getByLabel("as", { exact: true }).selectOption({ label: "Tobias Marrin" });
  await expect(live.getByText(/only reads it meanwhile|is asked here/)).toBeVisible();
  await live.getByLabel("as", { exact: true }).selectOption("anybody else");
  await expect(live.getByText("Nothing is shown.")).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(cell("Remark", "see")).toBeVisible();
});
