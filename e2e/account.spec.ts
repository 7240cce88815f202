import { expect, test, type Page } from "@playwright/test";
import { PEOPLE } from "../demo/people.ts";
import { accessible, hydrated, saved, signIn, signInByHand } from "./desk.ts";

/** A page of somebody else's browser, which knows nothing of this one. */
async function another(page: Page): Promise<Page> {
  const context = await page.context().browser()?.newContext({ baseURL: process.env.COMPASS_ADDRESS });
  if (!context) throw new Error("There is no browser.");
  return context.newPage();
}

test("somebody sees where they are signed in, ends the other session and changes the password", async ({ page }) => {
  const other = await another(page);
  await signInByHand(other, "newcomer");
  await signInByHand(page, "newcomer");
  await page.getByRole("link", { name: "Account", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Nell Arden" })).toBeVisible();
  const sessions = page.getByRole("table", { name: "Where you are signed in" });
  await expect(sessions.getByRole("row")).toHaveCount(3);
  await accessible(page);
  await page.getByRole("button", { name: "End all others" }).click();
  await expect(page.getByRole("status")).toHaveText("1 other sessions have ended.");
  await expect(sessions.getByRole("row")).toHaveCount(2);
  await other.goto("/outlooks");
  await expect(other).toHaveURL(/sign-in/);

  const change = async (current: string, next: string) => {
    await page.getByLabel("Present password").fill(current);
    await page.getByLabel("New password").fill(next);
    await page.getByRole("button", { name: "Change it" }).click();
  };
  await change("not this one at all", "a lamp on the far quay");
  await expect(page.getByRole("alert")).toContainText("not the present password");
  await change(PEOPLE.newcomer.password, "qwertyuiop12345");
  await expect(page.getByRole("alert")).toContainText("tried first");
  await change(PEOPLE.newcomer.password, "a lamp on the far quay");
  await expect(page.getByRole("status")).toContainText("The password is changed");
  // What the first change said is gone, so that the second one is waited for: it ends the sessions begun before it.
  await page.reload();
  await hydrated(page);
  await expect(page.getByRole("status").filter({ hasText: "The password is changed" })).toHaveCount(0);
  await change("a lamp on the far quay", PEOPLE.newcomer.password);
  await expect(page.getByRole("status")).toContainText("The password is changed");
  await page.getByRole("button", { name: "Sign out everywhere" }).click();
  await expect(page).toHaveURL(/sign-in/);
});

test("an owner closes an account, opens it again, and finds both in the log of what was done", async ({ page }) => {
  const newcomer = await another(page);
  await signInByHand(newcomer, "newcomer");
  await signInByHand(page, "owner");
  await page.goto("/account");
  await page.getByRole("link", { name: "the desk's people" }).click();
  await accessible(page);
  await page.getByRole("button", { name: "Close the account of Nell Arden" }).click();
  await expect(page.getByRole("button", { name: "Open the account of Nell Arden" })).toBeVisible();
  await newcomer.goto("/outlooks");
  await expect(newcomer).toHaveURL(/sign-in/);
  await page.getByRole("button", { name: "Open the account of Nell Arden" }).click();
  await expect(page.getByRole("button", { name: "Close the account of Nell Arden" })).toBeVisible();
  await page.getByRole("link", { name: "What everybody did" }).click();
  const log = page.getByRole("table", { name: "What everybody did" });
  await expect(log.getByRole("row").nth(1)).toContainText("opened an account again: newcomer@meridian.example");
  await expect(log.getByRole("row").nth(2)).toContainText("closed an account: newcomer@meridian.example");
  await accessible(page);
  await page.getByLabel("Show").click();
  await page.getByRole("option", { name: "published", exact: true }).click();
  await expect(log.getByRole("row").nth(1)).toContainText(/published: edition \d+, Sable tin: room above/);
});

test(
  "people and the log are the owners' alone, the desk is not for readers, and the chain of the record is " +
    "anybody's",
  async ({ page }) => {
    await signIn(page, "analyst");
    for (const place of [
      "/people",
      "/audit",
      "/plans",
      "/desk",
      "/people.data",
      "/audit.data",
      "/plans.data",
      "/desk.data",
    ])
      expect((await page.request.get(place)).status(), place).toBe(403);
    // What says so is a page like any other: its scripts and styles are its own.
    const refused: string[] = [];
    page.on("console", (message) => refused.push(message.text()));
    await page.goto("/desk");
    await expect(page.getByRole("heading", { name: "This is not yours to open." })).toBeVisible();
    expect(refused.filter((text) => text.includes("Content Security Policy"))).toEqual([]);
    const reader = await another(page);
    await signIn(reader, "subscriber");
    for (const place of ["/round", "/editions", "/live", "/bars/sable-tin/P1D"])
      expect((await reader.request.get(place)).status(), place).toBe(403);
    await reader.goto("/outlooks");
    await expect(
      reader.getByText(/The record stands at entry \d+, head [0-9a-f]{64}, signed by key [0-9a-f]{16}/),
    ).toBeVisible();
    const nobody = await another(page);
    const chain = (await (await nobody.request.get("/record/chain.json")).json()) as {
      entries: unknown[];
      editions?: unknown;
    };
    expect(chain.entries.length).toBeGreaterThan(0);
    expect(chain.editions).toBeUndefined();
    await nobody.goto("/record/record.json");
    await expect(nobody).toHaveURL(/sign-in/);
  },
);

test("a colleague's draft says whose it is, what becomes public, and is published by who says so", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/editions");
  await page.getByRole("button", { name: "Begin an outlook" }).click();
  await page.waitForURL(/editions\/./);
  await page.getByLabel("Title").fill("Of a colleague");
  await page.getByRole("textbox", { name: "Words", exact: true }).fill("Words.");
  await page.getByRole("button", { name: "Add its section" }).click();
  await saved(page);
  await expect(page.getByRole("region", { name: "What becomes public" })).toContainText(/\d+ bars, .* as drawn/);
  const colleague = await another(page);
  await signIn(colleague, "colleague");
  await colleague.goto(page.url());
  await colleague.getByRole("button", { name: "Publish" }).click();
  await expect(colleague.getByRole("alert")).toContainText("This draft is Ines Quill's. Nothing was published.");
  await colleague.getByLabel("This is Ines Quill's draft; I publish it").check();
  await colleague.getByRole("button", { name: "Publish" }).click();
  await expect(colleague).toHaveURL(/outlooks\/\d+/);
  await expect(colleague.getByText(/by Ines Quill, published by Jorun Vale/)).toBeVisible();
  await expect(colleague.getByText(/the record holds from its first entry to its last/)).toBeVisible();
});
