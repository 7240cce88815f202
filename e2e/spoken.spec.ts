import { expect, test } from "@playwright/test";
import { accessible, beginOutlook, saved, signIn } from "./desk.ts";

test("a step is said aloud, a number is dragged into words, and a reader hears it", async ({ page, browser }) => {
  await signIn(page, "analyst");
  await beginOutlook(page);
  await page.getByLabel("Title").fill("Tin, spoken");
  await page.getByLabel("Market", { exact: true }).click();
  await page.getByRole("option", { name: "Sable tin", exact: true }).click();
  await page.getByRole("button", { name: "Add its section" }).click();
  await page.getByLabel("Market", { exact: true }).click();
  await page.getByRole("option", { name: "Sable tin", exact: true }).click();
  await page.getByRole("button", { name: "Add a walk-through" }).click();
  const walk = page.getByRole("region", { name: "Sable tin, step by step" });
  await walk.getByRole("button", { name: "Begin as the desk says it" }).click();
  await page.getByRole("textbox", { name: "Words", exact: true }).fill("Tin speaks.");
  const words = page.getByRole("textbox", { name: "Words on Sable tin" });
  await words.click();
  await page.keyboard.type("Tin stands at ");
  await saved(page);

  await page.getByText("Numbers of Sable tin, to be dragged into words").click();
  const price = page.getByRole("listitem").filter({ hasText: /^[\d.]+ price$/ });
  const figure = (await price.textContent())?.split(" ")[0] ?? "";
  const line = await words.locator("p").boundingBox();
  if (!line) throw new Error("There is nothing to drop it on.");
  await price.dragTo(words, { targetPosition: { x: 400, y: line.height / 2 } });
  await expect(words.locator(".chip")).toHaveText(figure);
  await expect(words).toHaveText(`Tin stands at ${figure}`);

  await page.getByRole("button", { name: "Say step 1 aloud" }).click();
  await expect(page.getByRole("button", { name: "Stop at 1 s" })).toBeVisible();
  await page.getByRole("button", { name: /^Stop at/ }).click();
  await expect(page.getByLabel("step 1, said aloud")).toBeVisible();
  await saved(page);
  await accessible(page);
  const sentence = page.getByLabel("What step 1 says");
  const before = await sentence.inputValue();
  await sentence.fill("Another sentence.");
  await expect(page.getByText("The sentence has changed since it was said.")).toBeVisible();
  await sentence.fill(before);
  await expect(page.getByRole("status").filter({ hasText: /^(saved \d|everything is saved)/ })).toBeVisible();
  // A market that was written of, has nothing new and is not called any more is offered to go.
  await page
    .getByRole("region", { name: "Sable tin", exact: true })
    .getByRole("checkbox", { name: /fifth wave/ })
    .uncheck();
  await page.getByRole("button", { name: "Let it go from this edition" }).click();
  await expect(page.getByRole("region", { name: "Sable tin", exact: true })).toBeHidden();
  await saved(page);
  await page.getByRole("button", { name: "Publish" }).click();
  await page.waitForURL(/outlooks\/\d+$/);

  const reader = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(reader, "subscriber");
  await reader.goto(page.url());
  const spoken = reader.getByLabel(/said aloud, \d+ s$/);
  await expect(spoken).toBeVisible();
  // It is a recording that a browser plays to its end.
  const length = await spoken.evaluate(async (node) => {
    const audio = node as HTMLAudioElement;
    audio.muted = true;
    await audio.play();
    await new Promise((done) => audio.addEventListener("ended", done, { once: true }));
    return audio.currentTime;
  });
  expect(length).toBeGreaterThan(0.5);
  await expect(reader.locator("main")).toContainText("Tin speaks.");
  await accessible(reader);
  await reader.context().close();
});
