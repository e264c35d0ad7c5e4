import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("a conservator keeps a report with a treatment, and whoever sees it opens it", async ({ page }) => {
  await be(page, "sorcha.lind", "/registers/treatments");
  await page.getByRole("row").nth(2).getByRole("link").first().click();
  await expect(page).toHaveURL(/treatments\/\d+$/);
  const at = page.url();
  await page.getByRole("link", { name: "Change", exact: true }).click();
  const report = {
    name: "Findings.pdf",
    mimeType: "application/pdf",
    buffer: Buffer.from("What was found."),
  };
  await page.locator("input[type=file]").setInputFiles(report);
  await expect(page.getByRole("link", { name: "Findings.pdf" })).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page).toHaveURL(at);
  await expect(page.getByRole("link", { name: "Findings.pdf" })).toBeVisible();
  await accessible(page);

  await be(page, "lucia.penrose", new URL(at).pathname);
  const saving = page.waitForEvent("download");
  await page.getByRole("link", { name: "Findings.pdf" }).click();
  const file = await saving;
  expect(file.suggestedFilename()).toBe("Findings.pdf");
  await page.goto("/registers/treatments");
  await page.getByLabel("Only where Report is").fill("findings");
  await expect(page.getByRole("cell", { name: "Findings.pdf" })).toHaveCount(1);
});

test("a column that live processes read is called otherwise: what follows is said, and they go on", async ({
  page,
}) => {
  const rename = async (from: string, to: string) => {
    await be(page, "maeve.dunlea", "/registers/objects/columns");
    const names = page.getByLabel("Name of the column");
    await expect(names.first()).toBeVisible();
    const at = (await names.evaluateAll((all) => all.map((x) => (x as HTMLInputElement).value))).indexOf(
      from,
    );
    await names.nth(at).fill(to);
    await expect(page.getByText(/^Formulas follow the new name: .*Gallery works/)).toBeVisible();
    await accessible(page);
    await page.getByRole("button", { name: "Keep" }).click();
    await expect(page.getByText("Objects is changed.")).toBeVisible();
  };
  await rename("Accession number", "Inventory number");
  // What is live reads it, by the name it was released with; the draft is written anew.
  await be(page, "tobias.marrin", "/workshop/take-into-treatment/route");
  await expect(page.getByText(/\{Object\.Inventory number\} is in treatment/).first()).toBeVisible();
  await page.goto("/registers/treatments");
  await expect(page.getByRole("row").nth(2)).toBeVisible();
  await rename("Inventory number", "Accession number");
  await be(page, "tobias.marrin", "/workshop/take-into-treatment/route");
  await expect(page.getByText(/\{Object\.Accession number\} is in treatment/).first()).toBeVisible();
});

test("a list of thousands goes on behind the last page that has a number", async ({ page }) => {
  await be(page, "maeve.dunlea", "/registers/price_list?sort=item");
  const first = await page.getByRole("row").nth(2).textContent();
  // Far down by the address that such a page gives: a place in the order of the list.
  const place = Buffer.from(JSON.stringify(["A", "1"])).toString("base64url");
  await page.goto(`/registers/price_list?sort=item&after=${place}`);
  await expect(page.getByText(/far down the list/)).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "To the beginning" }).click();
  await expect(page.getByRole("row").nth(2)).toHaveText(first!);
});
