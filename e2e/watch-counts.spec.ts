import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, saved, signIn } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const details = (page: Page) => page.getByRole("region", { name: "Selected mark" });
const counts = (page: Page) =>
  sheet(page)
    .getByRole("list", { name: "The argument" })
    .getByRole("button", { name: /Subminuette impulse/ });

// It moves the market's clock on.
test("the feed kills a count: it is struck through, its scenario is told, the alternate is promoted", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "verin-olta", "PT1M");
  await page.keyboard.press("w");
  await clickAt(page, 0.1, 0.9);
  await clickAt(page, 0.2, 0.1);
  // The last bars stand at about seven tenths of the width.
  await clickAt(page, 0.71, 0.5);
  await page.keyboard.press("Escape");
  await expect(counts(page)).toHaveCount(1);
  // Its second pivot is put where the market is: a day of minutes goes past it. The fork's lies far away.
  const price = Number(((await page.locator("h1 + p").textContent()) ?? "").replace(/[^\d.]/g, ""));
  await details(page).getByText("Pivots, exactly").click();
  const pivot = (i: number) => details(page).getByLabel(i === 0 ? "Start" : `Pivot ${i}`, { exact: true });
  const put = async (i: number, value: number) => {
    await pivot(i).fill(value.toFixed(3));
    await pivot(i).press("Enter");
  };
  await put(0, price * 0.5);
  await put(1, price * 1.5);
  await put(2, price * 0.6);
  await chart(page).focus();
  await page.keyboard.press("7");
  await expect(counts(page)).toHaveCount(2);
  await counts(page)
    .and(page.getByRole("button", { name: /^Subminuette/ }))
    .click();
  await details(page).getByText("Pivots, exactly").click();
  await put(2, price * 0.999);
  await expect(counts(page).and(page.getByRole("button", { name: /^Subminuette impulse.*wrong below/ }))).toHaveCount(
    1,
  );
  await details(page).getByRole("button", { name: "Make a scenario" }).click();
  const form = sheet(page).getByRole("form", { name: "Scenario" });
  await form.getByLabel("Stop at").fill((price * 0.97).toFixed(3));
  await form.getByLabel(/^Wrong/).fill((price * 0.96).toFixed(3));
  await form.getByLabel(/^Wrong/).press("Enter");
  await form.getByRole("button", { name: /^Save/ }).click();
  await saved(page);
  await page.getByRole("button", { name: "+1 day" }).click();
  await expect(sheet(page).getByText(/^\u00d7 The count it rests on died on/)).toBeVisible();
  await expect(
    details(page)
      .getByRole("status")
      .filter({ hasText: /Dead since .* Still alive:$/ }),
  ).toBeVisible();
  await accessible(page);
  await details(page).getByRole("button", { name: "Promote", exact: true }).first().click();
  await expect(counts(page).and(page.getByRole("button", { name: /^Subminuette impulse.*wrong below/ }))).toHaveCount(
    1,
  );
  await page.goto("/counts");
  await expect(page.getByRole("region", { name: "Verin / Olta" }).getByText(/died: price went below/)).toBeVisible();
  await accessible(page);
});
