import { expect, test } from "@playwright/test";
import { accessible, be, touchable } from "./people";
import { pdf, picture } from "./papers";

const file = (name: string, buffer: Buffer) => ({ name, mimeType: "application/octet-stream", buffer });

test("several papers are added at once, looked at in the page, and read so by whoever answers", async ({
  page,
}) => {
  await be(page, "tomas.wexley", "/ask/acquisition-offers");
  await page.getByLabel("Offered by").fill("A bell founder");
  const row = page.locator('[data-field="list"]');
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    row.getByRole("button", { name: "Their papers: choose files" }).press("Enter"),
  ]);
  expect(chooser.isMultiple()).toBe(true);
  await chooser.setFiles([
    file("Bell from the north.jpg", await picture(1200, 900, "#6b4a2f")),
    file("List of bells.pdf", pdf(["Two bells and a clapper", "A bell wheel of oak"])),
    file("Broken.pdf", Buffer.from("this is no PDF at all")),
    file("Nothing.txt", Buffer.alloc(0)),
  ]);
  const list = row.getByRole("list", { name: "Files of Their papers" });
  await expect(list.getByRole("link")).toHaveText([
    "Bell from the north.jpg",
    "List of bells.pdf",
    "Broken.pdf",
  ]);
  await expect(row.getByRole("status")).toHaveText('"Nothing.txt" is empty.');
  // The picture is there as a small one, made by the server.
  const small = list.locator("img");
  await expect.poll(() => small.evaluate((el: HTMLImageElement) => el.naturalWidth)).toBe(160);
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await accessible(page);

  // By keyboard alone, and back to where it was.
  const look = list.getByRole("button", { name: "Look at List of bells.pdf" });
  await look.press("Enter");
  const preview = page.getByRole("dialog", { name: "List of bells.pdf" });
  const first = preview.getByRole("region", { name: "Page 1 of 2" });
  await expect(first.getByText("Two bells and a clapper")).toBeAttached();
  await expect(preview.getByRole("region", { name: "Page 2 of 2" })).toBeAttached();
  const dark = await first.locator("canvas").evaluate((el: HTMLCanvasElement) => {
    const { data } = el.getContext("2d")!.getImageData(0, 0, el.width, el.height);
    let n = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i]! < 60 && data[i + 3] === 255) n++;
    return n / (el.width * el.height);
  });
  // The square is 300 by 200 points of 595 by 842.
  expect(dark).toBeGreaterThan(0.11);
  expect(dark).toBeLessThan(0.14);
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(preview).toBeHidden();
  await expect(look).toBeFocused();
  await list.getByRole("button", { name: "Look at Broken.pdf" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "is none" })).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await page.reload();
  await expect(list.getByRole("link")).toHaveCount(3);
  await list.getByRole("button", { name: "Remove Broken.pdf" }).click();
  await expect(list.getByRole("link")).toHaveText(["Bell from the north.jpg", "List of bells.pdf"]);

  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/OFFER-\d+$/);
  const sent = page.url();
  await page.getByRole("button", { name: "Look at Bell from the north.jpg" }).click();
  const shown = page.getByRole("dialog").getByRole("img", { name: "Bell from the north.jpg" });
  await expect.poll(() => shown.evaluate((el: HTMLImageElement) => el.naturalWidth)).toBe(1200);

  // On a phone.
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(sent);
  await touchable(page);
  await page.getByRole("button", { name: "Look at List of bells.pdf" }).click();
  await expect(page.getByRole("region", { name: "Page 1 of 2" })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await accessible(page);
});
