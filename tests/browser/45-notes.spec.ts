import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("a note is left on a record, somebody is mentioned, comes there by their notice, and it is taken away", async ({
  page,
}) => {
  await be(page, "lucia.penrose", "/registers/objects/7");
  const box = page.getByLabel("A note on this object");
  await expect(page.getByText("None yet.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Leave this note" })).toBeDisabled();
  await box.fill("The frame is loose. ");
  await page.getByRole("combobox", { name: "Mention somebody" }).press("Enter");
  await page.keyboard.type("Sorcha");
  await page
    .getByRole("option", { name: /Sorcha Lind/ })
    .first()
    .click();
  await expect(box).toHaveValue(/The frame is loose\. @Sorcha Lind/);
  await expect(box).toBeFocused();
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText("Your note is left, and Sorcha Lind told.")).toBeVisible();
  await expect(page.getByRole("listitem").filter({ hasText: "The frame is loose." })).toBeVisible();
  await expect(box).toHaveValue("");
  await accessible(page);

  await be(page, "sorcha.lind");
  await page.getByRole("button", { name: /notice/i }).click();
  await page.getByRole("link", { name: /Lucia Penrose mentions you on/ }).click();
  await expect(page).toHaveURL(/\/registers\/objects\/7$/);
  await expect(page.getByText("@Sorcha Lind")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Take away/ })).toBeHidden();

  await be(page, "lucia.penrose", "/registers/objects/7");
  await page.getByRole("button", { name: "Take away: The frame is loose" }).press("Enter");
  await expect(page.getByText("The note is taken away.")).toBeVisible();
  await expect(page.getByText("None yet.")).toBeVisible();
});
