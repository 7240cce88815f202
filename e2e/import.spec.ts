import { expect, test, type Page } from "@playwright/test";
import { accessible, hydrated, signIn } from "./desk.ts";

async function choose(page: Page, name: string, text: string): Promise<void> {
  await page.goto("/library");
  await hydrated(page);
  await page.locator("input[type=file]").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
}

const day = (n: number) => new Date(Date.UTC(2024, 0, 1 + n)).toISOString().slice(0, 10).split("-").reverse().join("/");
const row = (n: number) => `${day(n)};${100 + n},5;${102 + n},25;${99 + n},5;${101 + n},5;1000`;
const file = (from: number, to: number) =>
  ["Date;Open;High;Low;Close;Volume", ...Array.from({ length: to - from }, (_, i) => row(from + i))].join("\r\n");

test(
  "a file with semicolons, decimal commas and day-first dates becomes a market, twice is told, later " + "extends",
  async ({ page }) => {
    await signIn(page, "analyst");
    await choose(page, "Isle copper.csv", file(0, 40));
    await expect(page.getByRole("table", { name: "What was recognised" })).toContainText("date as day/month/year");
    await accessible(page);
    await hydrated(page);
    await page.getByRole("button", { name: "Confirm and import" }).click();
    await expect(page.getByRole("status").filter({ hasText: "40 bars added" })).toBeVisible();

    await choose(page, "Isle copper.csv", file(0, 40));
    await page.getByLabel("Into").click();
    await page.getByRole("option", { name: "Isle copper" }).click();
    await page.getByRole("button", { name: "Confirm and import" }).click();
    await expect(page.getByRole("status").filter({ hasText: "imported before. Nothing was changed" })).toBeVisible();

    await choose(page, "later.csv", file(30, 50));
    await page.getByLabel("Into").click();
    await page.getByRole("option", { name: "Isle copper" }).click();
    await page.getByRole("button", { name: "Confirm and import" }).click();
    await expect(page.getByRole("status").filter({ hasText: "10 bars added. 10 were already there" })).toBeVisible();
    await page.getByRole("link", { name: "Open the market" }).click();
    await expect(page.getByRole("application", { name: "Chart of Isle copper, Day" })).toBeVisible();
  },
);

test("bad rows are named by line, and nothing is stored until the analyst agrees to leave them out", async ({
  page,
}) => {
  await signIn(page, "analyst");
  const rows = file(0, 5).split("\r\n");
  rows[3] = rows[3].replace(/;1\d\d,25;/, ";=HYPERLINK(1);");
  await choose(page, "bad.csv", rows.join("\r\n"));
  await expect(page.getByRole("row", { name: /^4 The high "=HYPERLINK\(1\)" is not a number/ })).toBeVisible();
  await page.getByRole("button", { name: "Confirm and import" }).click();
  await expect(page.getByRole("alert")).toContainText("Nothing was stored.");
  await page.getByLabel("1 row cannot be read").click();
  await page.getByRole("option", { name: "leave exactly these out" }).click();
  await page.getByRole("button", { name: "Confirm and import" }).click();
  await expect(page.getByRole("status").filter({ hasText: "4 bars added. 1 row left out" })).toBeVisible();
});

test("a file that is no text is refused calmly", async ({ page }) => {
  await signIn(page, "analyst");
  await choose(page, "book.csv", "PK\u0003\u0004\0\0\0");
  await expect(page.getByText(/hold bytes that are no text|holds bytes that are no text/)).toBeVisible();
});
