import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, findByName, handles, signIn, undoAll } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const lines = (page: Page) => sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem");
const chosen = (page: Page) => lines(page).getByRole("button", { pressed: true });
const proposals = (page: Page) => sheet(page).getByRole("region", { name: "Proposals" });
const columns = (page: Page) => sheet(page).getByRole("region", { name: "Columns" });

/** Markets that may show a pattern; which of them does depends on how far the clock was moved on. */
const MAY_SHOW = ["verin-olta", "mirren-bank", "orrery-works", "skerry-silver", "isles-200", "grey-wheat"];

/** Opens a market and rung on which the machine offers a pattern, and walks its patterns. */
async function toPatterns(page: Page): Promise<void> {
  for (const rung of ["P1D", "PT4H", "PT1H"])
    for (const market of MAY_SHOW) {
      await descend(page, market, rung);
      await expect(proposals(page).getByRole("button", { name: /^(Walk them|Put away)$/ })).toBeVisible();
      const patterns = proposals(page).getByRole("button", { name: /^Patterns/ });
      if ((await patterns.count()) > 0) return patterns.click();
    }
  throw new Error("No market shows a pattern.");
}

test("a pattern the machine found is taken by a key, keeps its rules, is adjusted, and says what that breaks", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await toPatterns(page);
  await expect(proposals(page).getByRole("article", { name: "Proposal" })).toContainText(/forming|confirmed/);
  await page.keyboard.press("1");
  await proposals(page).getByRole("button", { name: "Put away" }).click();
  const mine = lines(page)
    .getByRole("button", { name: /waits for a close|confirmed|left by a close|negated/ })
    .first();
  await mine.click();
  await expect(sheet(page).getByText(/^Rules: \d+ hold$/)).toBeVisible();
  expect((await handles(page)).length).toBeGreaterThanOrEqual(4);
  await sheet(page)
    .getByText(/^Rules: \d+ hold$/)
    .click();
  await expect(
    sheet(page)
      .getByText(/in ATR/)
      .first(),
  ).toBeVisible();
  await accessible(page);
  // Its last turn far away: what it was it is no more, and that is said with the number.
  const price = sheet(page)
    .getByLabel(/^Turn \d$/, { exact: true })
    .last();
  const before = Number(await price.inputValue());
  await price.fill(String(before * 1.5));
  await page.keyboard.press("Enter");
  await expect(sheet(page).getByText(/^Rules: \d+ of \d+ broken$/)).toBeVisible();
  await expect(sheet(page).getByRole("alert").filter({ hasText: "must be" }).first()).toBeVisible();
  await undoAll(page);
});

test("a pattern is placed by its turns and read as what they are; another is chosen", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  const before = await lines(page).count();
  await findByName(page, "Mark a pattern by its turns");
  await expect(page.getByText("Pattern: click turn 1, in order of time.")).toBeVisible();
  for (const [x, y] of [
    [0.1, 0.3],
    [0.2, 0.7],
    [0.3, 0.4],
    [0.4, 0.7],
  ])
    await clickAt(page, x, y);
  await page.keyboard.press("Escape");
  await expect(lines(page)).toHaveCount(before + 1);
  await sheet(page).getByRole("combobox", { name: "Pattern" }).click();
  await page.getByRole("option", { name: "Cups with handle" }).click();
  await expect(chosen(page)).toContainText("Cup with handle");
  await undoAll(page);
  await expect(lines(page)).toHaveCount(before);
});

test("columns take the place of bars by keys alone; a count is taken as a mark and stands among the bars", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  const before = await lines(page).count();
  await chart(page).focus();
  await page.keyboard.press("\\");
  await expect(columns(page)).toBeVisible();
  await expect(columns(page).getByText(/^\d+ columns of boxes of 1\.00 %/)).toBeVisible();
  await expect(columns(page).getByText(/^Counts|^No count/)).toBeVisible();
  // The same keys as on any chart.
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("+");
  await accessible(page);
  const box = columns(page).getByLabel("Box (%)");
  await box.fill("80");
  await page.keyboard.press("Enter");
  await expect(columns(page).getByText("At most 50 %.")).toBeVisible();
  await box.fill("2");
  await page.keyboard.press("Enter");
  await expect(columns(page).getByText(/of boxes of 2\.00 %/)).toBeVisible();
  await columns(page).getByRole("button", { name: "Take" }).first().focus();
  await page.keyboard.press("Enter");
  await expect(chosen(page)).toContainText("Measured move of");
  await expect(sheet(page).getByLabel("Remark")).toHaveValue(
    /Counted from columns: \d+ (boxes|columns), boxes of 2\.00 %/,
  );
  await chart(page).focus();
  await page.keyboard.press("\\");
  await expect(columns(page)).toBeHidden();
  await expect(chosen(page)).toContainText("Measured move of");
  await undoAll(page);
  await expect(lines(page)).toHaveCount(before);
});
