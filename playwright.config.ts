import { defineConfig } from "@playwright/test";
import { pagesAlone } from "./e2e/browsers.ts";

export default defineConfig({
  testDir: "e2e",
  workers: 1,
  timeout: 240_000,
  // Three worlds beside each other on two cores: what fails once and then does not is told as flaky.
  retries: 1,
  expect: { timeout: 20_000 },
  reporter: [["line"], ["json"]],
  use: {
    baseURL: process.env.COMPASS_ADDRESS,
    // What is not there to be clicked by then will not be: the rest of the time is for others.
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    // As people may choose: nothing is judged halfway through a change of colour.
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: pagesAlone,
  },
});
