import { expect, test, type Locator, type Page } from "@playwright/test";
import { accessible, addStep, askForKey, be, focusOn, newProcess } from "./people";

/** Waits until what is drawn is seen: what draws is loaded a moment after the page, and styles its paper then. */
const draws = (pad: Locator) => expect(pad).toHaveAttribute("style", /touch-action/);

/** Draws two strokes across a field. */
async function draw(page: Page, label: string): Promise<void> {
  const pad = page.getByRole("img", { name: new RegExp(`^${label}: draw here`) });
  await draws(pad);
  await pad.scrollIntoViewIfNeeded();
  const box = (await pad.boundingBox())!;
  for (const y of [0.3, 0.6]) {
    await page.mouse.move(box.x + box.width * 0.2, box.y + box.height * y);
    await page.mouse.down();
    for (let i = 1; i <= 12; i++)
      await page.mouse.move(
        box.x + box.width * (0.2 + i * 0.05),
        box.y + box.height * (y + 0.15 * Math.sin(i)),
      );
    await page.mouse.up();
  }
}
/** Dots of ink in a picture that is shown. */
const ink = (page: Page, name: RegExp) =>
  page.getByRole("img", { name }).evaluate(async (img: HTMLImageElement) => {
    await img.decode();
    const canvas = document.createElement("canvas");
    canvas.width = img.naturalWidth;
    canvas.height = img.naturalHeight;
    const ctx = canvas.getContext("2d")!;
    ctx.drawImage(img, 0, 0);
    const { data } = ctx.getImageData(0, 0, canvas.width, canvas.height);
    let dark = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i]! < 128) dark++;
    return dark;
  });
const LABEL = "Signature of whoever takes the key";

test("whoever takes a key signs for it on the keeper's screen, and a later change of what was signed is told", async ({
  page,
}) => {
  const number = await askForKey(page, "lucia.penrose", "Textile store, Lakeside");
  await be(page, "fintan.galloway");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.getByRole("button", { name: "Approve" }).click();
  await expect(page).toHaveURL(/\/desk$/);
  await be(page, "greta.halloran");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.getByLabel(/^Key number/).fill("K-55");
  await page.getByRole("button", { name: "Sign", exact: true }).click();
  await expect(page.getByText(/Nothing is drawn yet/)).toBeVisible();
  await accessible(page);
  await draw(page, LABEL);
  await page.getByRole("button", { name: "Sign", exact: true }).click();
  await expect(page.getByRole("button", { name: `${LABEL}: sign anew` })).toBeVisible();
  expect(await ink(page, new RegExp(`^${LABEL}`))).toBeGreaterThan(500);
  // It is kept with what is typed.
  await expect(page.getByText("Kept.").first()).toBeVisible();
  await page.reload();
  await expect(page.getByRole("img", { name: new RegExp(`^${LABEL}`) })).toBeVisible();
  // By keyboard alone: away with it, and a name in its place.
  await focusOn(page.getByRole("button", { name: `${LABEL}: sign anew` }));
  await page.keyboard.press("Enter");
  await focusOn(page.getByRole("button", { name: "Type your name instead" }));
  await page.keyboard.press("Enter");
  await page.keyboard.type("Lucia Penrose");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("img", { name: `${LABEL}: Lucia Penrose` })).toBeVisible();
  expect(await ink(page, new RegExp(`^${LABEL}`))).toBeGreaterThan(500);
  await page.getByRole("button", { name: "Handed over" }).click();
  await expect(page).toHaveURL(/\/desk$/);
  await page.goto(`/requests/${number}`);
  await expect(page.getByText("What was signed stands as it was.")).toBeVisible();
  // Whoever asked reads stages, not steps.
  const stages = page.getByRole("list", { name: "Stages" });
  await expect(stages.locator("[aria-current]")).toContainText("Key is out");
  await expect(stages.getByRole("listitem")).toHaveCount(4);
  await expect(page.getByText(/account of Greta Halloran, .*fingerprint [0-9a-f]{12}/)).toBeVisible();
  await expect(page.getByText(/entered a signature, fingerprint [0-9a-f]{12}/)).toBeVisible();
  await accessible(page);
  // What is said when the key comes back stands in what was signed as empty.
  await be(page, "greta.halloran");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.getByLabel(/^Remarks of the keeper/).fill("The tag is bent.");
  await page.getByRole("button", { name: "Key is back" }).click();
  await expect(page).toHaveURL(/\/desk$/);
  await page.goto(`/requests/${number}`);
  await expect(page.getByText("Changed after signing: Remarks of the keeper.")).toBeVisible();
  // Who asked sees nothing of the handover, and so of no signature either.
  await be(page, "lucia.penrose", `/requests/${number}`);
  await expect(stages.locator("[aria-current]")).toContainText("Closed");
  await expect(page.getByText(/Changed after signing/)).toBeHidden();
});

test("an owner groups steps into stages, by mouse and by keyboard", async ({ page }) => {
  await newProcess(page, "Staged", "STAGED", ["Wish"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "decide");
  const row = page.getByRole("group", { name: /^2, Decide/ });
  await expect(row).toBeVisible();
  await row.hover();
  await row.getByRole("button", { name: /^More for/ }).click();
  await page.getByRole("menuitem", { name: "A stage begins here" }).click();
  await page.keyboard.type("Being looked at");
  await page.keyboard.press("Enter");
  await expect(row.getByText("Being looked at")).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(row.getByText("Being looked at")).toBeHidden();
});

test("on a phone a loan is signed by finger", async ({ browser }) => {
  const context = await browser.newContext({
    baseURL: process.env["BASE_URL"],
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  const page = await context.newPage();
  await be(page, "maeve.dunlea", "/ask/object-loan");
  await page.getByRole("button", { name: "3 Transport" }).click();
  const pad = page.getByRole("img", { name: /^Signature for the borrower: draw here/ });
  await draws(pad);
  await pad.scrollIntoViewIfNeeded();
  const box = (await pad.boundingBox())!;
  expect(box.x + box.width).toBeLessThanOrEqual(390);
  const cdp = await context.newCDPSession(page);
  const at = (x: number, y: number) => [{ x: box.x + box.width * x, y: box.y + box.height * y }];
  await cdp.send("Input.dispatchTouchEvent", { type: "touchStart", touchPoints: at(0.2, 0.5) });
  for (let i = 1; i <= 10; i++)
    await cdp.send("Input.dispatchTouchEvent", { type: "touchMove", touchPoints: at(0.2 + i * 0.06, 0.4) });
  await cdp.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
  // Whoever goes on to anything else has signed: nothing that was drawn is lost.
  await page.getByRole("button", { name: "Back" }).click();
  await expect(page.getByRole("button", { name: "Send request" })).toBeEnabled();
  await page.getByRole("button", { name: "3 Transport" }).click();
  await expect(page.getByRole("img", { name: "Signature for the borrower: Signature" })).toBeVisible();
  expect(await ink(page, /^Signature for the borrower/)).toBeGreaterThan(100);
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await accessible(page);
  await context.close();
});
