import { expect, test } from "@playwright/test";
import { accessible, askForKey, be, focusOn, pick, radio } from "./people";
import { day } from "../day";

test("a process owner changes the form and the route, releases it, and the next request behaves so", async ({
  page,
}) => {
  const before = await askForKey(page, "lucia.penrose", "Cold room, Harbour");
  await be(page, "tobias.marrin", "/workshop");
  await accessible(page);
  await page.getByRole("link", { name: /Store key/ }).click();
  await page.getByRole("link", { name: "Form sheet" }).click();
  await expect(page.getByRole("region", { name: "Live form" })).toBeVisible();
  await accessible(page);

  // Rename by typing; the formulas that read it follow.
  const name = page.getByLabel("Name of Safety training done");
  await name.fill("Safety course passed");
  await name.press("Tab");
  await expect(page.getByLabel("Exception: worked out as", { exact: true })).toHaveValue(
    /Safety course passed = false/,
  );
  await expect(
    page.getByRole("region", { name: "Live form" }).getByText("Safety course passed"),
  ).toBeVisible();

  // A new row below, its kind, needed, and what it is worked out from.
  await page.getByLabel("Name of Purpose").press("Enter");
  await page.keyboard.type("Days");
  await page.keyboard.press("Tab");
  await page.getByLabel("Kind of Days").selectOption("number");
  const formula = page.getByLabel("Days: worked out as");
  await formula.fill("(Untill - From).days + 1");
  await expect(page.getByText(/Did you mean "Until"/)).toBeVisible();
  await formula.press("Control+.");
  await expect(formula).toHaveText("(Until - From).days + 1");
  await expect(page.getByText(/^For “.*”: 3$/)).toBeVisible();
  await formula.press("Enter");
  await expect(
    page.getByRole("region", { name: "Live form" }).locator('[data-field^="days"], [data-field^="field-1"]'),
  ).toContainText("3");

  // Undo and redo.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Days: worked out as")).toHaveValue("");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel("Days: worked out as")).toHaveValue("(Until - From).days + 1");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  // Who sees what.
  await page.getByRole("button", { name: "Who sees what" }).click();
  await page.getByRole("button", { name: /^Purpose at Manager decides: see/ }).click();
  await expect(page.getByRole("button", { name: /^Purpose at Manager decides: hide/ })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Who sees what" }).click();

  // The route: an answer of its own with another way on, and a step in between, by keyboard.
  await page.getByRole("link", { name: "Route sheet" }).click();
  await expect(page.getByRole("region", { name: "Path map" })).toBeVisible();
  await accessible(page);
  await focusOn(page.getByRole("group", { name: /^2, Decide, Manager decides/ }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("tell");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: /^3, Tell/ })).toBeVisible();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(page.getByRole("group", { name: /^2, Tell/ })).toBeVisible();
  await page
    .getByRole("button", { name: /^Message/ })
    .first()
    .click();
  await page.getByLabel("Subject", { exact: true }).fill("{Request.number}: {Days} days asked for");
  await page.getByLabel("Subject", { exact: true }).press("Tab");
  await expect(page.getByText("KEY-SAMPLE: 3 days asked for")).toBeVisible();
  await page.keyboard.press("Escape");

  // A limit with its ladder on real days.
  await page.getByRole("button", { name: /^Limit: 2 working days/ }).click();
  await expect(page.getByText(/Asked now, the limit falls on/)).toBeVisible();
  await accessible(page);
  await page.getByLabel("Length: amount", { exact: true }).fill("3");
  await page.getByLabel("Length: amount", { exact: true }).press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: /^Limit: 3 working days/ })).toBeVisible();

  // A mistake is said on its row, keeps the draft from being released, and is mended there.
  await page.getByLabel(/^with an exception: when/).fill("Exceptionn = true");
  await page.getByLabel(/^with an exception: when/).press("Enter");
  await expect(page.getByText(/Error: Nothing here is called "Exceptionn"/)).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await expect(page.getByText(/One error keeps this draft from being released/)).toBeVisible();
  await expect(page.getByRole("button", { name: /^Release \d/ })).toBeDisabled();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("No problems")).toBeVisible();
  await expect(page.getByText("Days added")).toBeVisible();
  await accessible(page);
  await page.getByLabel("Note for those who come later").fill("Says how many days");
  await page.getByRole("button", { name: /^Release 1\.1\.0/ }).click();
  await expect(page.getByText("1.1.0 is live.")).toBeVisible();

  // Another person meets the new form and the new step; the earlier request stays as it was.
  await be(page, "lucia.penrose", "/ask/store-key");
  await pick(page, /^Store/, "Picture store, Harbour");
  await page.getByLabel(/^From/).fill(day(30));
  await page.getByLabel(/^Until/).fill(day(34));
  await page.getByLabel(/^Purpose/).fill("Choosing frames");
  await expect(page.locator("[data-field]", { hasText: /^Days/ }).last()).toContainText("5");
  await radio(page, /Safety course passed/, "Yes").check();
  await radio(page, /Risk assessment/, "Yes").check();
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/KEY-/);
  await expect(page.getByText("Store key 1.1.0")).toBeVisible();
  await page.getByRole("button", { name: /Notices/ }).click();
  await expect(page.getByText(/5 days asked for/)).toBeVisible();
  await page.goto(`/requests/${before}`);
  await expect(page.getByText("Store key 1.0.0")).toBeVisible();
});

test("thirty rows pasted from a spreadsheet become thirty fields with guessed kinds", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop");
  await page.getByRole("button", { name: "New process…" }).click();
  await page.getByLabel("Name").fill("Parking permit");
  await expect(page.getByLabel("Request numbers start with")).toHaveValue("PP");
  await page.getByLabel("Request numbers start with").fill("P");
  await page.getByRole("button", { name: "Start designing" }).click();
  await expect(page.getByText(/2 to 8 capital letters/)).toBeVisible();
  await page.getByLabel("Request numbers start with").fill("PARK");
  await page.getByRole("button", { name: "Start designing" }).click();
  await expect(page.getByText("The form is empty")).toBeVisible();
  const names = [
    "Start date",
    "Number of cars",
    "Reason",
    "Yearly fee",
    ...Array.from({ length: 26 }, (_, i) => `Plate ${i + 1}`),
  ];
  await page.evaluate(
    (text) => navigator.clipboard?.writeText(text).catch(() => undefined),
    names.join("\n"),
  );
  await focusOn(page.getByLabel("Paste rows"));
  await page.getByLabel("Paste rows").evaluate((el, text) => {
    const data = new DataTransfer();
    data.setData("text", text);
    el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, names.join("\n"));
  await expect(page.getByLabel("Name of Plate 26")).toHaveValue("Plate 26");
  await expect(page.getByLabel("Kind of Start date")).toHaveValue("date");
  await expect(page.getByLabel("Kind of Number of cars")).toHaveValue("whole number");
  await expect(page.getByLabel("Kind of Yearly fee")).toHaveValue("money");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Name of Plate 26")).toHaveValue("Plate 26");

  // A row is dragged, by keys and by the pointer; where it would go is said.
  const grip = (name: string) => page.getByRole("button", { name: `Move ${name}`, exact: true });
  const first = page.locator("tr[data-row]").first().getByRole("textbox").first();
  await focusOn(page.getByLabel("Name of Start date"));
  await focusOn(grip("Start date"));
  await page.keyboard.press("Space");
  await expect(page.getByText("stays here", { exact: true })).toBeVisible();
  await accessible(page);
  await page.keyboard.press("ArrowDown");
  await expect(page.getByText("below Number of cars", { exact: true })).toBeVisible();
  await page.keyboard.press("Space");
  await expect(first).toHaveValue("Number of cars");
  await expect(page.getByLabel("Name of Start date")).toBeFocused();
  await grip("Start date").hover();
  await page.mouse.down();
  await page.mouse.move(400, 300, { steps: 4 });
  await page.getByRole("columnheader", { name: "Name" }).hover();
  await expect(page.getByText("first", { exact: true })).toBeVisible();
  await page.mouse.up();
  await expect(first).toHaveValue("Start date");
  await page.getByRole("link", { name: "Route sheet" }).click();
  await expect(page.getByText("No steps yet")).toBeVisible();
  await focusOn(page.getByRole("group", { name: "1, start" }));
  await page.keyboard.press("/");
  await page.getByLabel("Kind of step").fill("decide");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("group", { name: /^2, Decide/ })).toBeVisible();
  // A step nobody has touched yet does not complain; left alone, it says what is missing.
  await expect(page.getByRole("button", { name: "Add a Finish" })).toHaveCount(0);
  await page.getByRole("group", { name: /^2, Decide/ }).press("ArrowUp");
  await page.getByRole("button", { name: "Add a Finish" }).click();
  await expect(page.getByRole("group", { name: /^3, Finish/ })).toBeVisible();
  await page.getByRole("group", { name: /^3, Finish/ }).press("?");
  await expect(page.getByRole("dialog", { name: "Keys of this page" })).toContainText("move the row");
  await accessible(page);
});

test("only owners and office people find a process in the Workshop", async ({ page }) => {
  await be(page, "lucia.penrose", "/workshop");
  await expect(page.getByText("No process is yours to design")).toBeVisible();
  await page.goto("/workshop/store-key/route");
  await expect(page.getByText(/There is no process "store-key"/)).toBeVisible();
});
