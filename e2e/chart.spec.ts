import { expect, test } from "@playwright/test";
import { accessible, chart, clickAt, descend, hydrated, signIn } from "./desk.ts";

/** The chart as a tool: how it is looked at, measured, and walked through the past. */

test("measures between two points, by mouse and by keys alone", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  await page.keyboard.press("m");
  await expect(page.getByText("Ruler: click where it begins.")).toBeVisible();
  await clickAt(page, 0.3, 0.6);
  await clickAt(page, 0.5, 0.3);
  const told = page.getByRole("status").filter({ hasText: /^\d+ bars, .* pt\.$/ });
  await expect(told).toHaveText(/^\d+ bars, \d+ days?.*, \+[\d.]+, \+[\d.]+ %, \+[\d.]+ pt\.$/);
  await page.keyboard.press("Escape");
  await expect(told).toHaveCount(0);

  await chart(page).focus();
  await page.keyboard.press("m");
  for (const key of ["ArrowLeft", "Enter", "ArrowLeft", "ArrowLeft", "ArrowLeft", "Enter"])
    await page.keyboard.press(key);
  await expect(page.getByRole("status").filter({ hasText: /^3 bars/ })).toBeVisible();
  await page.keyboard.press("Escape");
});

test("reads out the bar under the crosshair with its change and range", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "verin-corran");
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + 400, box.y + 300);
  await expect(
    page.getByText(/O 1\.\d{5}.*H 1\.\d{5}.*L 1\.\d{5}.*C 1\.\d{5}.*%\).*range [\d.]+ pip, [\d.]+ ATR/),
  ).toBeVisible();
});

test("changes to a log axis, fits again, and goes to a date twenty years back", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "orrery-works");
  const picture = () => page.locator("[data-chart] canvas").first().screenshot();
  const view = page.getByRole("group", { name: "View" });
  const linear = await picture();
  await view.getByRole("button", { name: "Linear" }).click();
  await expect(view.getByRole("button", { name: "Log" })).toHaveAttribute("aria-pressed", "true");
  await page.waitForTimeout(150);
  expect((await picture()).equals(linear)).toBe(false);
  await chart(page).focus();
  await page.keyboard.press("[");
  await page.waitForTimeout(150);
  const stretched = await picture();
  await page.keyboard.press("0");
  await page.waitForTimeout(150);
  expect((await picture()).equals(stretched)).toBe(false);
  await page.keyboard.press("g");
  const date = page.getByLabel("Go to a date");
  await date.fill("2006-03-15");
  await date.press("Enter");
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + 380, box.y + 300);
  // Twelve is where the share began; two hundred where it is now.
  await expect(page.getByText(/O 1\d\.\d\d/)).toBeVisible();
  await accessible(page);
});

test(
  "walks through the past bar by bar: nothing of what came after is on any rung, and what is placed " + "is kept",
  async ({ page }) => {
    await signIn(page, "analyst");
    await descend(page, "skerry-silver");
    const close = page.locator("h1 + p");
    const now = await close.textContent();
    await page.keyboard.press("b");
    const line = page.getByRole("group", { name: "Walk through the past" });
    await expect(line.getByRole("status")).toHaveText(/As of \w{3} \d+ \w{3} 2026, 18:30/);
    await expect(close).not.toHaveText(now ?? "");
    const first = await line.getByRole("status").textContent();
    await page.keyboard.press(".");
    await expect(line.getByRole("status")).not.toHaveText(first ?? "");
    await page.keyboard.press(",");
    await expect(line.getByRole("status")).toHaveText(first ?? "");
    const asOf = Number(new URL(page.url()).searchParams.get("asOf"));
    for (const rung of ["PT15M", "PT4H", "P1D", "P1W"]) {
      const body = await (await page.request.get(`/bars/skerry-silver/${rung}?hours=all&asOf=${asOf}`)).body();
      const times = new Float64Array(new Uint8Array(body).buffer).subarray(0, body.length / 48);
      expect(Math.max(...times), rung).toBeLessThan(asOf);
    }
    await accessible(page);
    const sheet = page.getByRole("complementary", { name: "Sheet" });
    await page.keyboard.press("l");
    await clickAt(page, 0.3, 0.5);
    await expect(sheet.getByRole("list", { name: "The argument" }).getByRole("listitem")).toHaveCount(1);
    await expect(page.getByRole("status").filter({ hasText: /^saved \d/ })).toBeVisible();
    await page.getByRole("navigation", { name: "Rungs" }).getByRole("link", { name: /^4 h/ }).click();
    await expect(line.getByRole("status")).toHaveText(first ?? "");
    await line.getByRole("button", { name: "One 4 h on" }).click();
    await expect(line.getByRole("status")).not.toHaveText(first ?? "");
    await line.getByRole("button", { name: "Return to now" }).click();
    await expect(line).toHaveCount(0);
    await hydrated(page);
    await expect(close).toHaveText(now ?? "");
  },
);
