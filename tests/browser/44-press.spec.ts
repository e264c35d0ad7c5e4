import { expect, test } from "@playwright/test";
import { accessible, be, closeOver, newProcess } from "./people";

test("a process is set up that is pressed on a record, sees today's records, and is pressed by mouse and keyboard", async ({
  page,
}) => {
  await newProcess(page, "Frame it", "GLAZE", ["Object", "Wanted"]);
  await page.getByLabel("Kind of Object").selectOption("look-up");
  await page.getByLabel("More about Object").click();
  await page.getByLabel("Looks in").selectOption("objects");
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Also let…" }).press("Enter");
  await page.getByRole("menuitem", { name: "somebody start it from a record" }).press("Enter");
  await expect(page.getByText("Say what is to be pressed", { exact: false })).toBeVisible();
  const chip = page.getByRole("button", { name: /^What is pressed on which records/ });
  await chip.press("Enter");
  await page.getByLabel("On the page of").selectOption("Objects");
  await page.getByLabel("What the button says").fill("Have it framed");
  await page.keyboard.press("Tab");
  await closeOver(page, chip);
  await expect(chip).toContainText("“Have it framed” on each object of Objects");
  const fills = page.getByRole("button", { name: /^What it fills in/ });
  await fills.press("Enter");
  await page.getByLabel(/^The object in/).selectOption("Object");
  await closeOver(page, fills);
  await expect(page.getByText(/It is offered on [\d,]+ of Objects today/)).toBeVisible();
  await accessible(page);
  // A sample as it would begin with.
  await page.getByRole("button", { name: "Make a sample of one…" }).press("Enter");
  const first = page.getByRole("menuitem").first();
  const title = (await first.textContent())!;
  await first.press("Enter");
  await expect(page.getByLabel("Sample", { exact: true })).toHaveValue(/./);
  await expect(page.getByLabel("Sample", { exact: true }).locator("option:checked")).toHaveText(title);
  // The start by the form goes: it is had from records alone.
  await page.getByRole("button", { name: "Remove: somebody fills in the form" }).click();
  await page.getByRole("button", { name: "Step", exact: true }).click();
  await page.getByLabel("Kind of step").fill("finish");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText(/1\.0\.0 is live/).first()).toBeVisible();

  await be(page, "lucia.penrose", "/ask");
  await expect(page.getByText("Frame it")).toBeHidden();
  await page.goto("/registers/objects/1");
  const press = page.getByRole("link", { name: "Have it framed" });
  await press.press("Enter");
  await expect(page.getByRole("heading", { name: "Frame it" })).toBeVisible();
  await expect(page.getByText("Have it framed:", { exact: false })).toBeVisible();
  await accessible(page);
  await page.getByLabel("Wanted").fill("In oak");
  await expect(page.getByText(/^Kept/)).toBeVisible();
  await page.goto("/ask");
  await page.getByRole("link", { name: "Frame it" }).click();
  await expect(page.getByLabel("Wanted")).toHaveValue("In oak");
  await page.getByRole("button", { name: "Send request" }).press("Enter");
  await expect(page).toHaveURL(/\/requests\/GLAZE-0001/);
  await expect(page.getByText("In oak").first()).toBeVisible();
});

test("what begins at once is pressed, and says why where it cannot be", async ({ page, browser }) => {
  await be(page, "lucia.penrose", "/registers/objects/2");
  const press = page.getByRole("button", { name: "Begin a condition check" });
  await expect(press).toBeVisible();
  await accessible(page);
  // Somebody else takes it away meanwhile; this page has not heard of it yet.
  await page.route("**/api/live**", (r) => r.abort());
  await page.reload();
  const other = await browser.newContext();
  const keeper = await other.newPage();
  await be(keeper, "maeve.dunlea", "/registers/objects/2/change");
  const status = keeper.getByLabel("Status");
  const before = await status.inputValue();
  const put = async (value: string) => {
    await keeper.goto("/registers/objects/2/change");
    await status.selectOption(value);
    await keeper.getByRole("button", { name: "Keep", exact: true }).click();
    await expect(keeper).toHaveURL(/\/registers\/objects\/2$/);
  };
  await put("on loan");
  await press.click();
  await expect(page.getByText("is not offered for", { exact: false })).toBeVisible();
  await put(before);
  await press.press("Enter");
  await expect(page).toHaveURL(/\/requests\/CHECK-\d+/);
  await other.close();
});
