import { expect, test, type Page } from "@playwright/test";
import { day } from "../day";
import { accessible, be, focusOn, newProcess, pick, radio } from "./people";

const TOO_LONG = "A key is mostly lent for two weeks at most.";

async function filledIn(page: Page): Promise<void> {
  await be(page, "lucia.penrose", "/ask/store-key");
  await pick(page, /^Store/, "Textile store, Lakeside");
  await page.getByLabel(/^From/).fill(day(10));
  await page.getByLabel(/^Until/).fill(day(29));
  await page.getByLabel(/^Purpose/).fill("Moving the banners, roll by roll");
  await radio(page, /Safety (training|course)/, "Yes").check();
  await radio(page, /Risk assessment/, "Yes").check();
}

test("a check is gone on past by saying why; whoever decides reads it, and a changed answer asks anew", async ({
  page,
}) => {
  await filledIn(page);
  await page.getByRole("button", { name: "Send request" }).click();
  const past = page.getByRole("region", { name: "Go on all the same" });
  const why = past.getByRole("textbox", { name: new RegExp(TOO_LONG) });
  await expect(why).toBeVisible();
  // It is told at both fields it is about.
  for (const id of ["from", "until"])
    await expect(page.locator(`[data-field=${id}]`)).toContainText(TOO_LONG);
  await accessible(page);
  // A blank is no reason.
  await why.fill("   ");
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page.getByText(TOO_LONG).first()).toBeVisible();
  await expect(page).toHaveURL(/\/ask\/store-key/);
  await why.fill("Three weeks of moving, with the lift booked throughout.");
  await expect(page.locator("[data-field=until]")).not.toContainText(TOO_LONG);
  // It is there still when the page is loaded anew.
  await expect(page.getByText("Kept.").first()).toBeVisible();
  await page.reload();
  await expect(why).toHaveValue("Three weeks of moving, with the lift booked throughout.");
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/\/requests\/KEY-\d+/);
  const number = /KEY-\d+/.exec(page.url())![0];
  await expect(page.getByText("went on past a check, saying why")).toBeVisible();
  await be(page, "fintan.galloway");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  const before = page.getByRole("list", { name: "Gone on past" });
  await expect(before).toContainText(TOO_LONG);
  await expect(before).toContainText("Lucia Penrose went on all the same: Three weeks of moving");
  await accessible(page);
  await page.getByRole("button", { name: "Approve" }).click();
  await expect(page).toHaveURL(/\/desk$/);
});

test("on a phone a reason is given as well", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await filledIn(page);
  await page.getByRole("button", { name: "Send request" }).click();
  const why = page.getByRole("textbox", { name: new RegExp(TOO_LONG) });
  // What is wrong takes the focus once it is told: on a slow machine from whoever types at that moment.
  await expect(async () => {
    await why.fill("The lift is booked.");
    await expect(why).toHaveValue("The lift is booked.", { timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/\/requests\/KEY-\d+/);
});

test("its owner says at which fields a check is told, and that it may be passed", async ({ page }) => {
  await newProcess(page, "Steps of a stile", "STILE", ["Width", "Height"]);
  await page.getByLabel("More about Height").click();
  await page.getByRole("button", { name: "Add a check" }).click();
  const check = page.getByRole("group", { name: "Check 1 of Height" });
  await check.getByLabel("may be passed by saying why").check();
  const told = check.getByRole("combobox", { name: /^Where else it is told/ });
  await told.selectOption("Width");
  await expect(check.getByRole("button", { name: /^Width/ })).toBeVisible();
  await accessible(page);
  await focusOn(check.getByRole("button", { name: /^Width/ }));
  await page.keyboard.press("Enter");
  await expect(check).toContainText("the field itself");
  await page.keyboard.press("Control+z");
  await expect(check.getByRole("button", { name: /^Width/ })).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
