import { expect, test } from "@playwright/test";
import { accessible, be, focusOn, newProcess } from "./people";

test("several of some choices are ticked by keyboard, counted as they are, and read on the request", async ({
  page,
}) => {
  await newProcess(page, "Pack it", "PACKED", ["Wants", "How many"]);
  await page.getByLabel("Kind of Wants").selectOption("several choices");
  await page.getByLabel("More about Wants").click();
  const choices = page.getByLabel("Choices of Wants");
  await choices.fill("Crate\nCourier\nCrate\n Padded mount ");
  await page.keyboard.press("Tab");
  await page.getByLabel("Kind of How many").selectOption("number");
  await page.getByLabel("How many: worked out as").click();
  await page.keyboard.type("count(Wants)");
  await page.keyboard.press("Enter");
  const live = page.getByRole("group", { name: "Wants" }).last();
  await live.getByLabel("Courier").check();
  await expect(page.getByText("1", { exact: true }).last()).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Step", exact: true }).click();
  await page.getByLabel("Kind of step").fill("finish");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText(/1\.0\.0 is live/).first()).toBeVisible();

  await be(page, "lucia.penrose", "/ask");
  await page.getByRole("link", { name: "Pack it" }).click();
  const wants = page.getByRole("group", { name: "Wants" });
  await focusOn(wants.getByLabel("Crate"));
  await page.keyboard.press("Space");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Space");
  await expect(wants.getByLabel("Padded mount")).toBeChecked();
  await expect(wants.getByRole("checkbox")).toHaveCount(3);
  await accessible(page);
  await page.getByRole("button", { name: "Send request" }).press("Enter");
  await expect(page).toHaveURL(/\/requests\/PACKED-0001/);
  await expect(page.getByText("Crate, Padded mount").first()).toBeVisible();
  await accessible(page);
});
