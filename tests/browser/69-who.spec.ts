import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

const who = (page: Page, of: RegExp) => page.getByRole("button", { name: of });
const found = (page: Page) => page.getByRole("status").filter({ hasText: /^For the sample/ });

test("who is asked is said, and whom that finds is seen, by the keyboard", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  await focusOn(who(page, /^Who: group duty-desk/).first());
  await page.keyboard.press("Enter");
  const kind = page.getByRole("combobox", { name: "How people are found" }).first();
  await focusOn(kind);
  await kind.selectOption({ label: "everybody for whom a condition holds" });
  const where = page.getByRole("textbox", { name: "For whom it holds" });
  await focusOn(where);
  await page.keyboard.type('Department = "Security" and Job title = "Security manager"');
  await page.keyboard.press("Tab");
  await expect(found(page)).toContainText("Dermot Vane");

  // Several rules put together, the first of which finds nobody.
  await kind.selectOption({ label: "several of these, put together" });
  const first = page.getByRole("combobox", { name: "How people are found" }).nth(1);
  await first.selectOption({ label: "whoever answered another step" });
  await page.getByRole("combobox", { name: "Which step" }).selectOption("handover");
  await page.getByRole("button", { name: "Another rule" }).click();
  await page.getByRole("combobox", { name: "How people are found" }).nth(2).selectOption("head");
  await expect(found(page)).toContainText(/[A-Z]/);
  await page.getByText("Why?").click();
  await expect(page.getByText(/head of the department of Requester/).first()).toBeVisible();

  // Of several one can be asked, and never whoever is kept apart.
  await page.getByRole("combobox", { name: "When several" }).selectOption("in turn");
  await page.getByRole("button", { name: "Keep somebody apart" }).click();
  await page.getByRole("combobox", { name: "How people are found" }).nth(3).selectOption("head");
  await expect(found(page)).toContainText("nobody is found");
  await expect(page.getByText(/may not answer, for they are kept apart/)).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(who(page, /whose turn it is, never head of the department of Requester$/)).toBeVisible();
  await accessible(page);
  // Everything is taken back.
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) await undo.click();
  await expect(who(page, /^Who: group duty-desk/).first()).toBeVisible();
});

test("whom every step asks, and until when, stands beside each other for all samples", async ({ page }) => {
  await be(page, "maeve.dunlea", "/workshop/object-loan/route");
  await focusOn(page.getByRole("button", { name: "Who is asked when" }));
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog", { name: "Who is asked when" });
  const at = (step: RegExp) => dialog.getByRole("row", { name: step });
  await expect(at(/Registry checks/)).toContainText(/Maeve Dunlea\s*until \w{3}, /);
  await expect(at(/Conservation decides/)).toContainText(/Sorcha Lind\s*until \w{3}, /);
  await expect(at(/Director decides/)).toContainText("does not come here");
  await accessible(page);
  // Whose request would find nobody is told of everybody who works here.
  await dialog.getByRole("button", { name: "Try it for everybody" }).click();
  const tried = dialog.getByRole("region", { name: "Tried for everybody" });
  await expect(tried.getByRole("status")).toContainText(/^\d+ tried: see the steps? below/);
  // Their own requests they never decide, and nobody else is named for that.
  await expect(tried).toContainText(/Conservation decides: nobody is found in 1 of \d+: Sorcha Lind\./);
  await expect(tried).toContainText(/Security decides: nobody is found in 1 of \d+: Dermot Vane\./);
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
});
