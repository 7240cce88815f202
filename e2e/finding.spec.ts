import { expect, test } from "@playwright/test";
import { readFile } from "node:fs/promises";
import { accessible, chart, descend, hydrated, signIn } from "./desk.ts";

/** Finding things, keys of one's own, and what is seen as a table and as files. */

test("the palette finds a rung, a command, a market and a place, by keys alone", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const find = async (text: string) => {
    await page.keyboard.press("Control+k");
    await expect(page.getByRole("dialog", { name: "Find" })).toBeVisible();
    await page.keyboard.type(text);
    await expect(page.getByRole("option").first()).toBeVisible();
  };
  await find("15 min");
  await accessible(page);
  await page.keyboard.press("Enter");
  await expect(chart(page)).toHaveAccessibleName("Chart of Sable tin, 15 min");
  await find("log or");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Log" })).toHaveAttribute("aria-pressed", "true");
  await find("skerry");
  await page.keyboard.press("Enter");
  await expect(chart(page)).toHaveAccessibleName(/Chart of Skerry silver/);
  await find("library: harbour");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/library\/harbour-oil$/);
  await page.keyboard.press("Control+k");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("a key is changed, a taken one is refused, and single keys are switched off and on", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/library");
  await hydrated(page);
  await page.keyboard.press("?");
  await page.waitForURL(/\/keys$/);
  await accessible(page);
  const ruler = page.getByRole("button", { name: "Key for: Measure between two points" });
  await ruler.click();
  await page.keyboard.press("l");
  await expect(page.getByRole("alert")).toHaveText('L is taken by "Place a level". Nothing was changed.');
  await ruler.click();
  await page.keyboard.press("[");
  await expect(ruler).toHaveText("[");
  await descend(page, "isles-40");
  await page.keyboard.press("m");
  await expect(page.getByText("Ruler: click where it begins.")).toHaveCount(0);
  await page.keyboard.press("[");
  await expect(page.getByText("Ruler: click where it begins.")).toBeVisible();
  await page.goto("/keys");
  await hydrated(page);
  await page.getByLabel("Listen to single letters and signs, outside text fields").uncheck();
  await descend(page, "isles-40");
  await page.keyboard.press("[");
  await expect(page.getByText("Ruler: click where it begins.")).toHaveCount(0);
  await page.keyboard.press("PageDown");
  await expect(chart(page)).toHaveAccessibleName(/4 h/);
});

test("the table of levels stands below the chart, selects its marks, and the view is had as files", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await page.keyboard.press("t");
  const table = page.getByRole("region", { name: "Table of levels" });
  await expect(table.getByRole("row").nth(3)).toBeVisible();
  await accessible(page);
  await table
    .getByRole("row", { name: /demand/ })
    .first()
    .click();
  await expect(
    page.getByRole("complementary", { name: "Sheet" }).getByLabel("Near edge", { exact: true }),
  ).toBeVisible();
  const starts: Record<string, RegExp> = {
    SVG: /^<svg /,
    PNG: /^.PNG/,
    CSV: /^bottom,top,name/,
    JSON: /"format": "even-compass-view-1"/,
  };
  for (const [format, start] of Object.entries(starts)) {
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      table.getByRole("button", { name: format }).click(),
    ]);
    expect(download.suggestedFilename()).toBe(`sable-tin-P1D.${format.toLowerCase()}`);
    expect((await readFile(await download.path(), "latin1")).slice(0, 200)).toMatch(start);
  }
  for (const bad of [
    "format=exe&from=0&to=1&bottom=0&top=1",
    "format=svg&from=x&to=1&bottom=0&top=1",
    "format=svg&from=5&to=1&bottom=0&top=1",
    "format=svg&rung=soon&from=0&to=1&bottom=0&top=1",
  ])
    expect((await page.request.get(`/descent/sable-tin/picture?${bad}`)).status(), bad).toBe(400);
});
