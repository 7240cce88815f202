import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, hydrated, signIn } from "./desk.ts";

/**
 * The Library as an analyst uses it: what is held, hours, files in and out, an import taken back, markets made of
 * others.
 */

async function importBars(page: Page, name: string, text: string, into?: string): Promise<void> {
  await page.goto("/library");
  await hydrated(page);
  await page.locator("input[type=file]").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByRole("button", { name: "Confirm and import" })).toBeVisible();
  if (into) {
    await page.getByLabel("Into").click();
    await page.getByRole("option", { name: into, exact: true }).click();
    await page.getByLabel("Where file and store differ").click();
    await page.getByRole("option", { name: "the file stands" }).click();
  }
  await page.getByRole("button", { name: "Confirm and import" }).click();
  await expect(page.getByRole("heading", { name: "Imported" })).toBeVisible();
}

const days = (from: number, count: number, price: number) =>
  [
    "date,open,high,low,close",
    ...Array.from({ length: count }, (_, i) =>
      [
        new Date(Date.UTC(2024, 0, 1 + from + i)).toISOString().slice(0, 10),
        ...[price, price + 1, price - 1, price],
      ].join(","),
    ),
  ].join("\n");

const exported = async (page: Page, address: string) => (await page.request.get(address)).text();

test("an import is undone: what it replaced is back, and it is told which must go first", async ({ page }) => {
  await signIn(page, "analyst");
  await importBars(page, "Isle zinc.csv", days(0, 20, 50));
  const before = await exported(page, "/library/isle-zinc/export?what=bars&rung=P1D&format=csv");
  await importBars(page, "other.csv", days(10, 20, 70), "Isle zinc");
  await page.goto("/library/isle-zinc");
  await hydrated(page);
  const imports = page.getByRole("complementary");
  await expect(imports.getByText("10 bars added, 10 differed, the file's stand")).toBeVisible();
  await expect(imports.getByText(/20 bars of the day, 11 Jan 2024 to 30 Jan 2024, by a file/)).toBeVisible();
  await accessible(page);
  const undo = async (file: string) => {
    await imports.getByRole("button", { name: `Undo the import of ${file}` }).click();
    await expect(imports.getByText("Nothing rests on its bars.")).toBeVisible();
    await imports.getByRole("button", { name: "Undo the import", exact: true }).click();
  };
  await undo("Isle zinc.csv");
  await expect(imports.getByRole("alert")).toHaveText(
    /A later import, other.csv, covers some of the same bars. Nothing was changed. Undo that one first./,
  );
  await imports.getByRole("button", { name: "Leave it" }).click();
  await undo("other.csv");
  await expect(imports.getByText(/^Undone /)).toBeVisible();
  expect(await exported(page, "/library/isle-zinc/export?what=bars&rung=P1D&format=csv")).toBe(before);
  await undo("Isle zinc.csv");
  await expect(page.getByText("None yet. Import a file into this market from the Library.")).toBeVisible();
});

test("bars and marks go out and come back the same", async ({ page }) => {
  await signIn(page, "analyst");
  const json = await exported(page, "/library/sable-tin/export?what=bars&rung=PT15M&format=json");
  await importBars(page, "again.json", json.replace('"name":"Sable tin"', '"name":"Tin once more"'));
  await page.getByRole("link", { name: "Back to the library" }).click();
  await page.getByRole("link", { name: "Tin once more", exact: true }).click();
  await expect(page.getByRole("complementary").getByText(/open until 18:30, Lisbon/)).toBeVisible();
  const csv = (market: string) => exported(page, `/library/${market}/export?what=bars&rung=PT15M&format=csv`);
  expect(await csv("tin-once-more")).toBe(await csv("sable-tin"));
  const marks = await exported(page, "/library/sable-tin/export?what=marks&format=csv");
  await hydrated(page);
  await page
    .getByLabel("File of marks")
    .setInputFiles({ name: "marks.csv", mimeType: "text/csv", buffer: Buffer.from(marks) });
  await expect(page.getByText(/[1-9]\d* marks? added, 0 were there already/)).toBeVisible();
  await page
    .getByLabel("File of marks")
    .setInputFiles({ name: "marks.csv", mimeType: "text/csv", buffer: Buffer.from("nothing,here\n1,2\n") });
  await expect(page.getByRole("alert")).toContainText("Nothing was stored.");
});

test("sessions are changed and every rung follows; hours that overlap are refused at their place", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/library/grey-wheat");
  await hydrated(page);
  const form = page.getByRole("form", { name: "The market" });
  const second = form.getByRole("group", { name: "Session 2", exact: true });
  await second.getByLabel("Opens").fill("11:30");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByRole("alert")).toHaveText("Two sessions overlap. Nothing was changed.");
  await second.getByLabel("Opens").fill("13:30");
  await form.getByLabel("Zone of its clock").fill("Mars/Olympus");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByRole("alert")).toHaveText(/"Mars\/Olympus" is not a time zone/);
  await form.getByLabel("Zone of its clock").fill("Asia/Kolkata");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByRole("status")).toHaveText(/Saved/);
  await accessible(page);
});

test("a market is made of two others and opened like any other", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/library/derive");
  await hydrated(page);
  const form = page.getByRole("form", { name: "A market made of others" });
  await form.getByLabel("Name").fill("Oil against gas");
  await form.getByLabel("It is").click();
  await page.getByRole("option", { name: "a ratio" }).click();
  for (const [i, name] of ["Harbour oil", "Lantern gas"].entries()) {
    await form
      .getByLabel(`Market ${i + 1}`, { exact: true })
      .last()
      .click();
    await page.getByRole("option", { name, exact: true }).click();
  }
  await expect(form.getByText("(Harbour oil) \u00f7 (Lantern gas)")).toBeVisible();
  await accessible(page);
  await form.getByRole("button", { name: "Make it" }).click();
  await page.waitForURL(/library\/oil-against-gas/);
  await expect(page.getByText(/Highs and lows are bounds/)).toBeVisible();
  await page.getByRole("link", { name: "Descend", exact: true }).click();
  await expect(chart(page)).toHaveAccessibleName("Chart of Oil against gas, Day");
  await page.waitForFunction(() => document.querySelector("[data-chart] canvas") !== null);
});

test("a set of rungs of one's own is made, walked from low to high, and left again", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/rungs");
  await hydrated(page);
  await page.getByRole("button", { name: "A new set" }).click();
  const form = page.getByRole("form", { name: "Set of rungs" });
  for (let i = 0; i < 7; i++)
    await form.getByRole("group", { name: "Rung 4", exact: true }).getByRole("button", { name: "Remove" }).click();
  await form.getByRole("button", { name: "Add a rung" }).click();
  await form.getByLabel("Name").fill("Odd ones");
  await form.getByLabel("Walked").click();
  await page.getByRole("option", { name: "from low to high" }).click();
  await accessible(page);
  await form.getByRole("button", { name: "Save the set" }).click();
  await expect(page.getByRole("region", { name: "Odd ones" })).toContainText(
    "Year \u00b7 Quarter \u00b7 Month \u00b7 45 min",
  );
  await accessible(page);
  await page.goto("/descent/verin-olta");
  const rungs = page.getByRole("navigation", { name: "Rungs" });
  await expect(rungs.getByRole("link")).toHaveCount(4);
  await expect(chart(page)).toHaveAccessibleName(/45 min/);
  await hydrated(page);
  await page.keyboard.press("n");
  await expect(chart(page)).toHaveAccessibleName(/Month/);
  await page.getByRole("combobox", { name: "Set of rungs" }).click();
  await page.getByRole("option", { name: "Year to minute" }).click();
  await expect(rungs.getByRole("link")).toHaveCount(10);
  await page.goto("/rungs");
  await hydrated(page);
  await page.getByRole("region", { name: "Odd ones" }).getByRole("button", { name: "Remove" }).click();
  await expect(page.getByRole("region", { name: "Odd ones" })).toHaveCount(0);
});

test("regular hours alone leave the night out", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/descent/harbour-oil?rung=PT15M");
  await hydrated(page);
  await page.waitForFunction(() => document.querySelector("[data-chart] canvas") !== null);
  await page.getByRole("button", { name: "All hours" }).click();
  await expect(page.getByRole("button", { name: "Regular hours" })).toHaveAttribute("aria-pressed", "true");
  await expect(page).toHaveURL(/hours=regular/);
  const count = async (hours: string) =>
    Number((await page.request.get(`/bars/harbour-oil/PT15M?hours=${hours}`)).headers()["x-start"]);
  expect(await count("regular")).toBeLessThan(await count("all"));
  await accessible(page);
});

test("closed pages of bars are kept for ever, the newest are asked for anew", async ({ page }) => {
  await signIn(page, "analyst");
  const newest = await page.request.get("/bars/verin-sarn/PT1M");
  const { "x-history": history, "x-start": start, etag } = newest.headers();
  expect(newest.headers()["cache-control"]).toContain("no-cache");
  expect(Number(start) % 4096).toBe(0);
  expect((await page.request.get("/bars/verin-sarn/PT1M", { headers: { "If-None-Match": etag } })).status()).toBe(304);
  const closed = await page.request.get(`/bars/verin-sarn/PT1M?page=0&history=${history}`);
  expect(closed.headers()["cache-control"]).toContain("immutable");
  expect((await closed.body()).length).toBe(4096 * 48);
  const old = await page.request.get("/bars/verin-sarn/PT1M?page=0&history=0");
  expect(old.headers()["cache-control"]).toContain("no-cache");
});
