import { expect, test } from "@playwright/test";
import { accessible, beginOutlook, hydrated, newestEdition, saved, signIn } from "./desk.ts";

test("a reviewer reads a draft as it would be, and says what of it; a moderator decides what others see", async ({
  page,
  browser,
  baseURL,
}) => {
  const own = { ...(baseURL ? { baseURL } : {}) };
  await signIn(page, "analyst");
  await beginOutlook(page, "Lesson");
  await page.getByLabel("Title").fill("For another pair of eyes");
  await page.getByRole("textbox", { name: "Words", exact: true }).fill("A close decides, a touch does not.");
  await saved(page);
  await page.getByRole("button", { name: "Ask for it" }).click();
  await expect(page.getByText(/asks for a reading/)).toBeVisible();
  const draft = new URL(page.url()).pathname.split("/").at(-1)!;

  const reviewer = await (await browser.newContext(own)).newPage();
  await signIn(reviewer, "reviewer");
  await expect(reviewer).toHaveURL(/reviews$/);
  await expect(reviewer.getByRole("listitem").first()).toContainText("For another pair of eyes");
  await accessible(reviewer);
  await reviewer.getByRole("link", { name: "For another pair of eyes" }).click();
  await hydrated(reviewer);
  await expect(reviewer.getByText("A close decides, a touch does not.")).toBeVisible();
  await accessible(reviewer);
  await reviewer.getByRole("button", { name: "Ask back" }).click();
  await expect(reviewer.getByText("What is asked back?")).toBeVisible();
  await reviewer.getByLabel("What to ask back").fill("Whose close?");
  await reviewer.getByRole("button", { name: "Ask back" }).click();
  await expect(reviewer.getByText(/Edda Lune asks back/)).toBeVisible();
  // Reading is all: a draft is neither written nor published, and the desk stays closed.
  for (const place of [`/editions/${draft}`, "/editions", "/round", "/questions", "/people"])
    expect((await reviewer.request.get(place)).status(), place).toBe(403);
  const published = await reviewer.request.post(`/editions/${draft}`, { form: { step: "publish" }, maxRedirects: 0 });
  expect(published.status()).toBe(403);
  await reviewer.getByRole("button", { name: "Approve" }).click();
  await expect(reviewer.getByText(/Edda Lune has approved it/)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/Edda Lune has approved it/)).toBeVisible();

  const reader = await (await browser.newContext(own)).newPage();
  await signIn(reader, "subscriber");
  await reader.goto(`/outlooks/${await newestEdition(reader)}`);
  await hydrated(reader);
  await reader.getByLabel("In your words").fill("Is a wick enough?");
  await reader.getByRole("button", { name: "Send it" }).click();
  await expect(reader.getByText(/It is sent/)).toBeVisible();

  const moderator = await (await browser.newContext(own)).newPage();
  await signIn(moderator, "moderator");
  await expect(moderator).toHaveURL(/questions$/);
  await hydrated(moderator);
  const asked = moderator.getByRole("article").filter({ hasText: "Is a wick enough?" });
  await expect(asked).toBeVisible();
  await expect(asked.getByLabel("Answer")).toHaveCount(0);
  await accessible(moderator);
  await asked.getByRole("button", { name: "Show it" }).click();
  await expect(asked.getByText(/; shown/)).toBeVisible();
  await reader.reload();
  await expect(reader.getByText("Is a wick enough?")).toBeVisible();
  for (const place of ["/editions", "/reviews", "/people"])
    expect((await moderator.request.get(place)).status(), place).toBe(403);
});
