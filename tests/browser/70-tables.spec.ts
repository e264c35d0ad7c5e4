import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

const cell = (page: Page, rule: number, column: string) =>
  page.getByRole("textbox", { name: `Rule ${rule}: ${column}`, exact: true });
const grid = (page: Page) => page.getByRole("table");

test("a decision table is written by the keyboard, proved while it is written, and seen with the sample", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/store-key/tables");
  await focusOn(page.getByRole("button", { name: "Begin the route with a table" }));
  await page.keyboard.press("Enter");
  const input = page.getByRole("textbox", { name: "Input 1", exact: true });
  await focusOn(input);
  await page.keyboard.type("Risk assessment on file");
  await page.keyboard.press("Enter");
  await expect(input).toHaveValue("Risk assessment on file");
  await focusOn(cell(page, 1, "Risk assessment on file"));
  await page.keyboard.type("yes");
  await page.keyboard.press("ArrowRight");
  await expect(cell(page, 1, "Risk assessment on file")).toHaveValue("true");
  await expect(cell(page, 1, "Result")).toBeFocused();
  await page.keyboard.type("on their own");
  await page.keyboard.press("Enter");
  await expect(cell(page, 1, "Result")).toHaveValue('"on their own"');
  await expect(cell(page, 2, "Result")).toBeFocused();
  // A rule in which nothing stands yet is told as such, and no proof goes by it.
  await expect(grid(page).getByText(/Rule 2 is empty/)).toBeVisible();
  await page.keyboard.type("on their own");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowLeft");
  await expect(
    grid(page).getByText(/Rules 1 and 2 both hold for Risk assessment on file = yes/),
  ).toBeVisible();
  await expect(cell(page, 2, "Result")).toHaveValue('"on their own"');
  await page.keyboard.press("Control+Backspace");
  const gap = grid(page).getByText(/No rule of “Table” holds for Risk assessment on file = no/);
  await expect(gap).toBeVisible();
  await accessible(page);
  await focusOn(grid(page).getByRole("button", { name: "Say what holds otherwise" }));
  await page.keyboard.press("Enter");
  await expect(gap).toHaveCount(0);
  await focusOn(page.getByRole("textbox", { name: "Otherwise: Result" }));
  await page.keyboard.type("with a keeper");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("textbox", { name: "Otherwise: Result" })).toHaveValue('"with a keeper"');
  await expect(page.getByRole("status").filter({ hasText: / → Result: / })).toBeVisible();
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) await undo.click();
  await expect(page.getByText("No decision tables yet")).toBeVisible();
});

test("the supplies of the demo go by their table: who decides, until when, and which pass by themselves", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/supplies/tables");
  await expect(page.getByRole("status").filter({ hasText: "rule 1 →" })).toContainText("Way: by itself");
  await accessible(page);

  // A test that leaves something out is told with an example, where it stands.
  await focusOn(cell(page, 1, "Total"));
  await page.keyboard.press("Control+a");
  await page.keyboard.type("< 500");
  await page.keyboard.press("Enter");
  await expect(cell(page, 2, "Total")).toBeFocused();
  await expect(grid(page).getByText(/No rule of “Handling” holds for Total exactly 500/)).toBeVisible();
  // The other way round two hold.
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("≤ 700");
  await page.keyboard.press("ArrowDown");
  await expect(cell(page, 1, "Total")).toHaveValue("<= 700");
  await expect(
    grid(page).getByText(/Rules 1 and 2 both hold for Total exactly 5\d\d.*only one of the rules may/),
  ).toBeVisible();
  await accessible(page);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect(cell(page, 1, "Total")).toHaveValue("<= 500");
  await expect(grid(page).getByText(/^Error/)).toHaveCount(0);

  // Words are texts; at the end a new rule; rows of a spreadsheet go over the cells.
  await focusOn(cell(page, 4, "Way"));
  await page.keyboard.press("Control+a");
  await page.keyboard.type("budget holder");
  await page.keyboard.press("Enter");
  await expect(cell(page, 4, "Way")).toHaveValue('"budget holder"');
  await expect(cell(page, 5, "Way")).toBeFocused();
  await focusOn(cell(page, 5, "Total"));
  await cell(page, 5, "Total").evaluate((el) => {
    const data = new DataTransfer();
    data.setData(
      "text/plain",
      "> 5000\tSecurity\tno\tbudget holder\tnull\t2 working days\n> 9000\t-\t-\tdirector\tnull\tnone\n",
    );
    el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(cell(page, 5, "Requester.department")).toHaveValue('"Security"');
  await expect(cell(page, 5, "Urgent")).toHaveValue("false");
  await expect(cell(page, 6, "Way")).toHaveValue('"director"');
  await expect(page.getByText("1 rule was added.")).toBeVisible();
  await expect(grid(page).getByText(/Rules 4 and 5 both hold/)).toBeVisible();
  // The first that holds has no such trouble, but rules that are never gone by.
  await page.getByRole("button", { name: /^Which rules count: only one may hold/ }).click();
  await page.getByRole("combobox", { name: "Which rules count" }).selectOption("first");
  await page.keyboard.press("Escape");
  await expect(
    grid(page).getByText("Error: Rule 5 is never gone by: wherever it holds, one before it holds as well."),
  ).toBeVisible();
  await focusOn(cell(page, 6, "Total"));
  await page.keyboard.press("Alt+ArrowUp");
  await expect(cell(page, 5, "Way")).toHaveValue('"director"');
  await expect(cell(page, 5, "Total")).toBeFocused();
  await page.keyboard.press("Control+Backspace");
  await page.keyboard.press("Control+Backspace");
  await expect(page.getByRole("textbox", { name: /^Rule 5/ })).toHaveCount(0);

  // What it comes to where none holds, and a column more.
  await page.getByRole("button", { name: /^Where no rule holds/ }).click();
  await page.getByRole("combobox", { name: "Where no rule holds" }).selectOption("otherwise");
  await page.keyboard.press("Escape");
  const otherwise = page.getByRole("textbox", { name: "Otherwise: Way" });
  await otherwise.fill("director");
  await otherwise.press("Tab");
  await expect(otherwise).toHaveValue('"director"');
  await page.getByRole("button", { name: "Column" }).click();
  await page.getByRole("menuitem", { name: "Something it comes to" }).click();
  await expect(page.getByRole("textbox", { name: "Output 4: name" })).toHaveValue("Result");
  await accessible(page);
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) await undo.click();
  await expect(cell(page, 4, "Way")).toHaveValue('"budget holder"');
  await expect(page.getByRole("textbox", { name: /^Rule 5/ })).toHaveCount(0);

  // On the route its values are ways to go by.
  await page.goto("/workshop/supplies/route");
  await page.getByRole("button", { name: /^Goes by: the first way/ }).click();
  await page.getByRole("combobox", { name: "The way is chosen by" }).selectOption("Handling.Way");
  await expect(page.getByRole("button", { name: /^Goes by: by the value of Handling.Way/ })).toBeVisible();
  while (await undo.isEnabled()) await undo.click();
});
