import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

const NOT_KEPT = /Not kept yet/;

test("on a phone that is offline nothing that is typed is lost, though its page ends, and the server has it once it is back", async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  let page = await context.newPage();
  await be(page, "lucia.penrose", "/ask/store-key");
  const purpose = () => page.getByLabel(/^Purpose/);
  await purpose().fill("Count the frames");
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  const address = page.url();
  await context.setOffline(true);
  await purpose().fill("Count the frames of the long wall");
  await expect(page.getByText(NOT_KEPT)).toBeVisible();
  await accessible(page);
  // What is sent from there stays as well.
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page.getByText("What you typed is still here", { exact: false })).toBeVisible();
  await page.close();

  await context.setOffline(false);
  page = await context.newPage();
  await page.goto(address);
  // What a page sends as it is closed may still go, by the network that is back: then the server has it already.
  await expect(page.getByText(/is here again|It was kept for you/)).toBeVisible();
  await expect(purpose()).toHaveValue("Count the frames of the long wall");
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await accessible(page);
  await page.reload();
  await expect(page.getByText(/It was kept for you/)).toBeVisible();
  await expect(purpose()).toHaveValue("Count the frames of the long wall");

  // Kept by itself as soon as the connection is back, without being left.
  await context.setOffline(true);
  await purpose().fill("Count all frames");
  await expect(page.getByText(NOT_KEPT)).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible({ timeout: 6000 });

  // Another device goes on meanwhile: both are there to be chosen between.
  await context.setOffline(true);
  await purpose().fill("Count the frames, offline");
  await expect(page.getByText(NOT_KEPT)).toBeVisible();
  await page.close();
  const desk = await (await browser.newContext()).newPage();
  await be(desk, "lucia.penrose");
  await desk.goto(address);
  await desk.getByLabel(/^Purpose/).fill("Count the frames, at the desk");
  await expect(desk.getByText(/Kept\. You can leave/)).toBeVisible();
  await context.setOffline(false);
  page = await context.newPage();
  await page.goto(address);
  await expect(page.getByText(/never reached the server/)).toBeVisible();
  await expect(purpose()).toHaveValue("Count the frames, at the desk");
  await accessible(page);
  await page.getByRole("button", { name: "Put in what was typed then" }).press("Enter");
  await expect(purpose()).toHaveValue("Count the frames, offline");
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await page.getByRole("button", { name: "Throw away" }).click();
  await expect(page).toHaveURL(/\/ask$/);
  expect(await page.evaluate(() => Object.keys(localStorage).filter((k) => k.startsWith("unkept")))).toEqual(
    [],
  );
});

test("what is too long to be taken says so, stays, and is kept once it is shorter", async ({ page }) => {
  await be(page, "lucia.penrose", "/ask/store-key");
  const purpose = page.getByLabel(/^Purpose/);
  await purpose.fill("frames ".repeat(700_000));
  await expect(page.getByRole("status").filter({ hasText: "may have 20000 characters" })).toContainText(
    "It stays here as it is",
  );
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page.getByText(/Purpose may have 20000 characters; this has 4900000/).first()).toBeVisible();
  expect(await purpose.evaluate((el: HTMLTextAreaElement) => el.value.length)).toBe(4_900_000);
  await purpose.fill("Count the frames");
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await page.getByRole("button", { name: "Throw away" }).click();
});
