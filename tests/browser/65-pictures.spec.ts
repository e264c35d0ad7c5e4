import { expect, test } from "@playwright/test";
import { picture } from "./papers";
import { accessible, newProcess } from "./people";

test("a picture stands in a text of a form, is said in words, and is seen by whoever fills it in, also outside", async ({
  page,
  browser,
}) => {
  await newProcess(page, "Way in", "WAYIN", ["Read this", "Name"]);
  await page.getByLabel("Kind of Read this").selectOption("text block");
  await page.getByLabel("More about Read this").click();
  const choose = (label: string) =>
    Promise.all([page.waitForEvent("filechooser"), page.getByRole("button", { name: label }).press("Enter")]);
  const [odd] = await choose("Choose a picture for Read this");
  await odd.setFiles({ name: "way.png", mimeType: "image/png", buffer: Buffer.from("no picture at all") });
  await expect(page.getByText(/That is no picture/)).toBeVisible();
  const [chooser] = await choose("Choose a picture for Read this");
  await chooser.setFiles({
    name: "way.jpg",
    mimeType: "image/jpeg",
    buffer: await picture(1800, 900, "#385"),
  });
  const says = page.getByLabel("What the picture of Read this shows");
  await says.fill("The door beside the crane");
  await says.press("Enter");
  const live = page.getByRole("region", { name: "Live form" });
  const shown = live.getByRole("img", { name: "The door beside the crane" });
  await expect.poll(() => shown.evaluate((el: HTMLImageElement) => el.naturalWidth)).toBe(1600);
  await accessible(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(live.getByRole("img", { name: "The door beside the crane" })).toBeHidden();
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(shown).toBeVisible();

  // Whoever was given the text can fetch it, without being anybody here; nobody else knows where.
  const address = (await shown.getAttribute("src"))!;
  const outside = await (await browser.newContext()).request.get(new URL(address, page.url()).href);
  expect([outside.status(), outside.headers()["content-type"]]).toEqual([200, "image/webp"]);
  expect(outside.headers()["cache-control"]).toContain("immutable");
  const none = await page.request.get(address.replace(/.$/, (c) => (c === "0" ? "1" : "0")));
  expect(none.status()).toBe(404);
});
