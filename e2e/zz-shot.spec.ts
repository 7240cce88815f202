import { test } from "@playwright/test";
import { descend, signIn } from "./desk.ts";

test("shot", async ({ page }) => {
  page.on("pageerror", (error) => console.log("PAGE", error.message));
  page.on("console", (line) => line.type() === "error" && console.log("CONSOLE", line.text().slice(0, 400)));
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await page.waitForTimeout(1500);
  await page.keyboard.press("/");
  await page.waitForTimeout(1500);
  
  await page.keyboard.press("2");
  await page.waitForTimeout(1200);
  await page.screenshot({ path: "/tmp/shot2.png" });
  await page.getByRole("complementary", { name: "Sheet" }).evaluate((e) => (e.scrollTop = 620));
  await page.waitForTimeout(300);
  await page.screenshot({ path: "/tmp/shot3.png" });
  await page.getByRole("button", { name: "Over the past" }).click();
  await page.getByRole("button", { name: "Run it" }).click();
  await page.waitForTimeout(8000);
  await page.getByRole("complementary", { name: "Sheet" }).evaluate((e) => (e.scrollTop = 1500));
  await page.screenshot({ path: "/tmp/shot4.png" });
});
