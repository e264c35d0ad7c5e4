import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("who looks after a register says who sees a column; others do not find it any more, nor what stands in it", async ({
  page,
}) => {
  await be(page, "piet.hanlon", "/registers/stores");
  await expect(page.getByRole("columnheader", { name: "Key holder" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Who may see it" })).toBeHidden();
  await page.goto("/registers/stores/rights");
  await expect(page.getByText(/There is no register "stores", or you may not see it/)).toBeVisible();

  await be(page, "tobias.marrin", "/registers/stores");
  await page.getByRole("link", { name: "Who may see it" }).click();
  await expect(page.getByRole("heading", { name: "Who may see Stores" })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Store key/ })).toContainText("Risk grade");
  const keep = page.getByRole("button", { name: "Keep", exact: true });
  await expect(keep).toBeDisabled();
  await page.getByRole("button", { name: "Only some see Key holder" }).press("Enter");
  await page.getByRole("button", { name: "Add who else sees Key holder" }).press("Enter");
  await page.getByLabel("Who sees Key holder, 1").selectOption("duty");
  await page.getByLabel("Duty that sees Key holder, 1").selectOption("Budget holder");
  await expect(page.getByText("Not kept yet.")).toBeVisible();
  await accessible(page);
  await keep.press("Enter");
  await expect(page.getByText("Who may see Stores is kept.")).toBeVisible();
  await expect(keep).toBeDisabled();

  await be(page, "piet.hanlon", "/registers/stores");
  await expect(page.getByRole("columnheader", { name: "Keeper" })).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "Key holder" })).toBeHidden();
  await be(page, "sorcha.lind", "/registers/stores");
  await expect(page.getByRole("columnheader", { name: "Key holder" })).toBeVisible();

  await be(page, "tobias.marrin", "/registers/stores/rights");
  await page.getByRole("button", { name: "All of them see Key holder" }).click();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Who may see Stores is kept.")).toBeVisible();
});
