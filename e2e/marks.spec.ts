import { expect, test, type BrowserContext, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, saved, signIn } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const lines = (page: Page) => sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem");
const price = (page: Page) => sheet(page).getByLabel("Price", { exact: true });

/** Removes every mark of the rung, so that the next test begins with none. */
async function clear(page: Page): Promise<void> {
  const all = await lines(page).count();
  if (all === 0) return;
  for (let left = all; left > 0; left--) {
    const first = lines(page).first().getByRole("button");
    if ((await first.getAttribute("aria-pressed")) !== "true") await first.click();
    await sheet(page).getByRole("button", { name: "Remove" }).click();
    await expect(lines(page)).toHaveCount(left - 1);
  }
  await saved(page);
}

test("the menu at the cursor places what is chosen there, by mouse and by keys", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "hale-remedies");
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.click(box.x + 300, box.y + 200, { button: "right" });
  await accessible(page);
  await page.getByRole("menuitem", { name: /^Level/ }).click();
  await expect(lines(page)).toHaveCount(1);
  // By keys alone: the menu at the crosshair, a channel with its first point there, the two others by arrows and Enter.
  await chart(page).focus();
  await page.keyboard.press("Escape");
  await page.mouse.move(box.x + 200, box.y + 200);
  await page.keyboard.press("Enter");
  await page.getByRole("menuitem", { name: "Channel H", exact: true }).press("Enter");
  await expect(page.getByText("Channel: click the second swing of its base line.")).toBeVisible();
  await chart(page).focus();
  for (const way of ["ArrowRight", "ArrowDown"]) {
    await page.keyboard.press(`Shift+${way}`);
    await page.keyboard.press("Enter");
  }
  await expect(sheet(page).getByText(/channel, /)).toBeVisible();
  await clear(page);
});

test("a fitted level finds its price, a path names its turns, a bearing shows on its rung", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "hale-remedies");
  await page.keyboard.press("f");
  await clickAt(page, 0.1, 0.5);
  await clickAt(page, 0.6, 0.5);
  await expect(sheet(page).getByText(/Fitted level .* by \d+ wicks?, \d+ closes? through/)).toBeVisible();
  await page.keyboard.press("p");
  await clickAt(page, 0.7, 0.5);
  await clickAt(page, 0.8, 0.3);
  await clickAt(page, 0.85, 0.4);
  await page.keyboard.press("Escape");
  await expect(sheet(page).getByText(/^Path to .*, then /)).toBeVisible();
  await page.keyboard.press("d");
  await sheet(page).getByRole("button", { name: "Up", exact: false }).click();
  await sheet(page).getByLabel("Reasons").fill("higher lows since June");
  await accessible(page);
  await sheet(page).getByRole("button", { name: "Set bearing" }).click();
  await expect(sheet(page).getByText(/^Up since .*: higher lows since June$/)).toBeVisible();
  await expect(
    page
      .getByRole("navigation", { name: "Rungs" })
      .getByRole("link", { name: /^Day/ })
      .getByRole("img", { name: "Bearing up" }),
  ).toBeVisible();
  await clear(page);
});

test("several marks are chosen, moved, locked and hidden together, and undone together, also after a reload", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "orrery-works");
  await page.keyboard.press("l");
  await clickAt(page, 0.2, 0.35);
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.65);
  await expect(lines(page)).toHaveCount(2);
  await page.keyboard.press("Escape");
  // Price has been through both since, so that the chart would leave them out.
  await page.keyboard.press("u");
  await page.getByLabel("What is broken or used up").check();
  await page.keyboard.press("Escape");
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  // A box drawn with Shift catches both.
  await page.keyboard.down("Shift");
  await page.mouse.move(box.x + 5, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.9, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up("Shift");
  const section = sheet(page).getByRole("region", { name: "Selected marks" });
  await expect(section.getByText("2 marks selected")).toBeVisible();
  const texts = () => lines(page).allInnerTexts();
  const before = await texts();
  await chart(page).focus();
  await page.keyboard.press("Shift+ArrowUp");
  await expect.poll(texts).not.toEqual(before);
  await page.keyboard.press("Control+z");
  await expect.poll(texts).toEqual(before);
  await page.keyboard.press("k");
  await expect(lines(page).filter({ hasText: "(locked)" })).toHaveCount(2);
  // What is locked is neither moved nor removed.
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Delete");
  await expect(lines(page)).toHaveCount(2);
  await saved(page);

  await page.reload();
  await expect(lines(page).filter({ hasText: "(locked)" })).toHaveCount(2);
  for (let undone = 0; undone < 3; undone++) await sheet(page).getByRole("button", { name: "Undo" }).click();
  await expect(lines(page)).toHaveCount(0);
  await sheet(page).getByRole("button", { name: "Redo" }).click();
  await expect(lines(page)).toHaveCount(1);
  await lines(page).first().getByRole("button").click();
  await page.keyboard.press("v");
  await expect(lines(page).filter({ hasText: "(hidden)" })).toHaveCount(1);
  await page.keyboard.press("v");
  await clear(page);
});

test("what is typed wrong is said at its field, and nothing is lost", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "orrery-works");
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.5);
  const before = await price(page).inputValue();
  for (const wrong of ["", "twelve", "1,234.5", "NaN", "1e5"]) {
    await price(page).fill(wrong);
    await price(page).press("Enter");
    await expect(sheet(page).getByText("This is not a number.")).toBeVisible();
  }
  await price(page).press("Escape");
  await expect(price(page)).toHaveValue(before);
  await price(page).fill("99999999999999");
  await price(page).press("Enter");
  await expect(sheet(page).getByText("No price lies that far.")).toBeVisible();
  await price(page).press("Escape");
  await expect(price(page)).toHaveValue(before);
  const date = sheet(page).getByLabel("Price, date");
  await date.fill("2026-03-02");
  await date.press("Enter");
  await saved(page);
  await expect(date).toHaveValue("2026-03-02");
  await clear(page);
});

test("a mark is copied to another market at the equivalent price, and its drift is told", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "skerry-silver");
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.5);
  const here = Number(await price(page).inputValue());
  await page.keyboard.press("c");
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("To", { exact: true }).click();
  await page.getByRole("option", { name: "Sable tin", exact: true }).click();
  await expect(dialog.getByText(/here becomes/)).toBeVisible();
  await accessible(page);
  const [, worth] = /becomes ([\d.]+) there/.exec(await dialog.getByRole("status").innerText()) ?? [];
  await dialog.getByRole("button", { name: "Copy", exact: true }).click();
  await expect(sheet(page).getByText("1 mark copied to Sable tin.")).toBeVisible();
  await clear(page);
  await descend(page, "sable-tin");
  const before = await lines(page).count();
  await lines(page)
    .filter({ hasText: new RegExp(`${Number(worth).toFixed(1).slice(0, -1).replace(".", "\\.")}`) })
    .first()
    .getByRole("button")
    .click();
  await expect(sheet(page).getByText(/Copied from skerry-silver by ratio/)).toBeVisible();
  await expect(sheet(page).getByText("No drift since.")).toBeVisible();
  expect(Math.abs(Number(await price(page).inputValue()) - Number(worth))).toBeLessThan(0.1);
  expect(here).toBeGreaterThan(0);
  await sheet(page).getByRole("button", { name: "Remove" }).click();
  await expect(lines(page)).toHaveCount(before - 1);
  await saved(page);
});

test("what is done while the server is away is kept in the browser, over a reload, and sent when it is back", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "verin-olta");
  await page.route("**/steps", (route) => route.abort());
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.4);
  await expect(sheet(page).getByText(/Your changes are kept in this browser/)).toBeVisible();
  await page.reload();
  await expect(lines(page)).toHaveCount(1);
  await expect(sheet(page).getByText(/Your changes are kept in this browser/)).toBeVisible();
  await page.unroute("**/steps");
  await saved(page);
  await page.reload();
  await expect(lines(page)).toHaveCount(1);
  await clear(page);
});

async function second(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await signIn(page, "colleague");
  return page;
}

test("two analysts change one mark: nothing is overwritten, and both are shown the difference", async ({
  page,
  browser,
}) => {
  const other = await browser.newContext();
  const theirs = await second(other);
  await signIn(page, "analyst");
  await descend(page, "verin-olta");
  await clear(page);
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.4);
  await saved(page);
  const first = await price(page).inputValue();
  await descend(theirs, "verin-olta");
  await lines(theirs).first().getByRole("button").click();

  // The colleague moves it: the first analyst, who placed it, sees the new price and what it was.
  await price(theirs).fill("58.5");
  await price(theirs).press("Enter");
  await saved(theirs);
  const alert = sheet(page).getByRole("alert").filter({ hasText: "Another analyst has changed your mark" });
  await expect(alert.getByRole("cell", { name: first, exact: true })).toBeVisible();
  await expect(alert.getByRole("cell", { name: "58.500", exact: true })).toBeVisible();
  await accessible(page);
  await alert.getByRole("button", { name: "Leave it so" }).click();
  await expect(price(page)).toHaveValue("58.500");

  // Both change it at once: the second to come is asked, with both prices in sight.
  await theirs.route("**/steps", (route) => route.abort());
  await price(theirs).fill("58.7");
  await price(theirs).press("Enter");
  await price(page).fill("58.6");
  await price(page).press("Enter");
  await saved(page);
  await theirs.unroute("**/steps");
  const conflict = sheet(theirs).getByRole("alert").filter({ hasText: "Another analyst changed the same mark" });
  await expect(conflict.getByRole("cell", { name: "58.700", exact: true })).toBeVisible();
  await expect(conflict.getByRole("cell", { name: "58.600", exact: true })).toBeVisible();
  await accessible(theirs);
  await conflict.getByRole("button", { name: "Keep mine" }).click();
  await saved(theirs);
  await expect(sheet(page).getByRole("alert").getByRole("cell", { name: "58.700", exact: true })).toBeVisible();
  await sheet(page).getByRole("button", { name: "Put mine back" }).click();
  await saved(page);
  await expect(price(theirs)).toHaveValue("58.600");
  await clear(page);
  await other.close();
});

test("two tabs of one analyst see each other's marks as they come", async ({ page, context }) => {
  await signIn(page, "analyst");
  await descend(page, "verin-olta");
  await clear(page);
  const tab = await context.newPage();
  await descend(tab, "verin-olta");
  await page.bringToFront();
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.4);
  await saved(page);
  await expect(lines(tab)).toHaveCount(1);
  await tab.bringToFront();
  await lines(tab).first().getByRole("button").click();
  await price(tab).fill("58.9");
  await price(tab).press("Enter");
  await saved(tab);
  await expect(price(page)).toHaveValue("58.900");
  await clear(tab);
  await expect(lines(page)).toHaveCount(0);
});
