import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("of a register, a group and a calendar one sees which steps and fields of processes name it", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/registers/stores");
  await page.getByRole("button", { name: "Where it is used: Stores" }).click();
  await expect(page.getByRole("link", { name: "Store key" }).first()).toBeVisible();
  await expect(page.getByText(/field Store/).first()).toBeVisible();
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.goto("/office/groups");
  await page.getByRole("button", { name: "Where it is used: Security duty desk" }).click();
  await expect(page.getByText(/Security looks/).first()).toBeVisible();
  await accessible(page);
  // Whoever designs nothing learns nothing of others' processes.
  await be(page, "piet.hanlon", "/registers/stores");
  await page.getByRole("button", { name: "Where it is used: Stores" }).click();
  await expect(page.getByText("No process that you may design names Stores.")).toBeVisible();
});
