import { test } from "@playwright/test";
import { hydrated, signIn } from "./desk.ts";

test("shot", async ({ page }) => {
  page.on("pageerror", (error) => console.log("PAGE", error.message));
  page.on("console", (line) => line.type() === "error" && console.log("CONSOLE", line.text().slice(0, 400)));
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, "analyst");
  await page.goto("/outlooks/1");
  for (const s of await page.locator("section[aria-label] ol").all()) console.log("F", (await s.getAttribute("aria-label")) + " :: " + (await s.innerText()).replaceAll("\n", " | "));
  await page.screenshot({ path: "/tmp/shot1.png" });
  await page.goto("/events");
  await hydrated(page);
  await page.screenshot({ path: "/tmp/shot2.png" });
});
