import { expect, test } from "@playwright/test";
import { accessible, hydrated, signIn } from "./desk.ts";

// It moves the market's clock on: the last of all.
test("an alert is set on a stop, fires once when the feed reaches it, and is told on whatever page one is", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await page.goto("/round?at=verin-sarn~PT15M");
  await expect(page.locator('[data-stop="verin-sarn PT15M"]')).toBeVisible();
  await hydrated(page);
  await page.keyboard.press("a");
  const choices = page.getByRole("complementary", { name: "This stop" }).getByRole("region", { name: "Alert" });
  await accessible(page);
  await choices.getByRole("button", { name: "A 15 min candle closes." }).click();
  await expect(choices.getByRole("alert")).toHaveText(/^Set\./);
  await page.goto("/library");
  await hydrated(page);
  await page.getByRole("button", { name: "+1 h" }).click();
  await page.getByRole("button", { name: /^1 alert$/ }).click();
  const told = page.getByRole("presentation").getByText(/Verin \/ Sarn: 15 min closed at/);
  await expect(told).toBeVisible();
  await page.getByRole("link", { name: "All alerts" }).click();
  await expect(page.getByRole("list", { name: "What alerts told" }).getByText(/15 min closed at/)).toHaveCount(1);
  await accessible(page);
  await page.getByRole("button", { name: /^Remove: Verin \/ Sarn/ }).click();
  await expect(page.getByText("Nothing has happened yet that was waited for.")).toBeVisible();
});
