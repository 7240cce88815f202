import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, descend, hydrated, signIn } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const studies = (page: Page) => sheet(page).getByRole("list", { name: "Studies on the charts" });
const line = (page: Page, name: string) => studies(page).getByRole("button", { name: new RegExp(`^${name}`) });
const panels = async (page: Page) =>
  ((await chart(page).getAttribute("data-panels")) ?? "").split(" ").filter(Boolean).map(Number);

/** Puts a study on the charts by typing its name. */
async function add(page: Page, typed: string): Promise<void> {
  await page.keyboard.press(";");
  await expect(sheet(page).getByRole("combobox", { name: "Study" })).toBeFocused();
  await page.keyboard.type(typed);
  await page.keyboard.press("Enter");
}

async function without(page: Page): Promise<void> {
  // What a chart is still about to keep goes with it.
  await page.goto("/library");
  const cleared = await page.evaluate(async () => {
    const body = JSON.stringify({ set: "", studies: [] });
    const headers = { "Content-Type": "application/json" };
    return (await fetch("/studies", { method: "POST", headers, body })).ok;
  });
  expect(cleared).toBe(true);
}

/** What is kept, once it is. */
const kept = (page: Page) =>
  page.evaluate(async () => {
    const { chosen } = (await (await fetch("/studies?set=")).json()) as { chosen: { study: string }[] };
    return chosen.map(({ study }) => study).join(" ");
  });

test.afterEach(async ({ page }) => without(page));

test("a study is found, changed, moved, removed and put back by keys alone", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  await add(page, "relative strength");
  await expect(line(page, "RSI 14")).toContainText(/at \d+\.\d: (above|below|between)/);
  await expect.poll(() => panels(page)).toHaveLength(1);
  // Its parameter is typed, and the keys go back to the chart.
  const period = sheet(page).getByLabel("Period", { exact: true });
  await line(page, "RSI 14").focus();
  await page.keyboard.press("Tab");
  await expect(period).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("0");
  await expect(sheet(page).getByText("This must be a whole number from 1.")).toBeVisible();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("9");
  await page.keyboard.press("Enter");
  await expect(line(page, "RSI 9")).toBeVisible();
  await expect(chart(page)).toBeFocused();
  await add(page, "convergence");
  await add(page, "simple average");
  await expect.poll(() => panels(page)).toHaveLength(2);
  await expect.poll(() => kept(page)).toBe("rsi macd sma");
  await accessible(page);
  // Moved with Alt, walked without.
  await line(page, "RSI 9").focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect.poll(() => kept(page)).toBe("macd rsi sma");
  await expect(line(page, "RSI 9")).toBeFocused();
  await page.keyboard.press("Delete");
  await expect(line(page, "RSI 9")).toBeHidden();
  await expect.poll(() => kept(page)).toBe("macd sma");
  await sheet(page).getByRole("button", { name: "Put it back" }).click();
  await expect.poll(() => kept(page)).toBe("macd rsi sma");
  // The same on every market, and after the page is opened again.
  await descend(page, "sable-tin");
  await expect(line(page, "RSI 9")).toContainText("at ");
  await expect.poll(() => panels(page)).toHaveLength(2);
});

test("a study is shown by rung, its panel is dragged, and it is in the files of the view", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  await add(page, "relative strength");
  await expect.poll(() => panels(page)).toHaveLength(1);
  const [before] = await panels(page);
  const box = (await chart(page).boundingBox())!;
  const edge = box.y + box.height - 30 - before;
  await page.mouse.move(box.x + 200, edge);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, edge - 40, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await panels(page))[0]).toBeGreaterThan(before + 30);
  await expect.poll(() => kept(page)).toBe("rsi");
  const svg = await page.evaluate(async () => {
    const view = "from=900&to=1000&bottom=1&top=400";
    const response = await fetch(`/descent/loam-fields/picture?format=svg&rung=P1D&hours=all&${view}`);
    return response.text();
  });
  expect(svg).toContain("RSI 14");
  expect(svg).toMatch(/(above|below|between) \d+/);
  const day = sheet(page).getByRole("checkbox", { name: "Day", exact: true });
  await day.click();
  await expect(day).not.toBeChecked();
  await expect(line(page, "RSI 14")).toContainText("not on this rung");
  await expect.poll(() => panels(page)).toHaveLength(0);
  await page.keyboard.press("Escape");
  await chart(page).focus();
  await page.keyboard.press("PageDown");
  await expect.poll(() => panels(page)).toHaveLength(1);
});

test("a look is kept under a name and put on in one step", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  await add(page, "relative strength");
  await add(page, "cloud");
  await sheet(page).getByRole("button", { name: "Keep these as a look" }).click();
  await page.keyboard.type("Momentum");
  await page.keyboard.press("Enter");
  await expect(sheet(page).getByText('"Momentum" is among your looks.')).toBeVisible();
  await expect.poll(() => kept(page)).toBe("rsi cloud");
  await without(page);
  await descend(page, "sable-tin");
  await expect(studies(page).getByRole("button")).toHaveCount(0);
  await sheet(page)
    .getByRole("list", { name: "Looks" })
    .getByRole("button", { name: /^Momentum/ })
    .click();
  await expect(line(page, "Cloud")).toBeVisible();
  await expect.poll(() => panels(page)).toHaveLength(1);
  await page.getByRole("button", { name: "Lamp" }).click();
  await accessible(page);
  await page.getByRole("button", { name: "Paper" }).click();
  await sheet(page).getByRole("button", { name: "Let go of the look Momentum" }).click();
  await expect(sheet(page).getByRole("list", { name: "Looks" }).getByText("Momentum", { exact: true })).toBeHidden();
});

test("an edition carries the studies of its chart, and its readers' page says what they read", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  await add(page, "relative strength");
  await expect.poll(() => kept(page)).toBe("rsi");
  await page.goto("/editions");
  await hydrated(page);
  await page.getByRole("button", { name: "Begin an outlook" }).click();
  await page.waitForURL(/editions\/[0-9a-f-]{36}$/);
  await hydrated(page);
  await page.getByLabel("Title").fill("With a study");
  const section = page.getByRole("button", { name: "Add its section" });
  await page.getByLabel("Market", { exact: true }).last().click();
  await page.getByRole("option", { name: "Loam Fields" }).click();
  await section.click();
  const choice = page.getByLabel("Studies", { exact: true }).last();
  await choice.click();
  await page.getByRole("option", { name: "as on the charts" }).click();
  await expect(choice).toContainText("as on the charts");
  const draft = page.url();
  await expect(page.getByRole("status").filter({ hasText: /^saved/ })).toBeVisible();
  // As a reader would be shown it.
  await page.goto(`${draft}/read`);
  const read = page.getByRole("table", { name: "What the studies read" });
  await expect(read.getByRole("rowheader")).toHaveText(["RSI 14"]);
  await expect(read.getByRole("cell")).toHaveText([/^at \d+\.\d: /]);
  await accessible(page);
});

test("a market's page sends no more script before its first candle than it did before there were studies", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await page.goto("/descent/loam-fields?rung=P1D");
  await page.waitForFunction(() => document.querySelector("[data-drawn]") !== null);
  const sent = await page.evaluate(() =>
    performance
      .getEntriesByType("resource")
      .filter(({ name }) => name.endsWith(".js"))
      .reduce((sum, one) => sum + (one as PerformanceResourceTiming).encodedBodySize, 0),
  );
  // Kilobytes as they are sent; the workers that are on their way by then among them.
  expect(sent / 1000).toBeGreaterThan(100);
  expect(sent / 1000).toBeLessThan(560);
});

test("a study put on the charts in one tab comes to the others", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  const other = await page.context().newPage();
  await descend(other, "loam-fields");
  await add(page, "relative strength");
  await expect(line(other, "RSI 14")).toBeVisible();
  await expect.poll(() => panels(other)).toHaveLength(1);
  await other.close();
});
