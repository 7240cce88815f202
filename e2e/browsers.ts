import { execFileSync } from "node:child_process";

/** Where the first of some programs is that is there. */
const pathOf = (...names: string[]) =>
  execFileSync("sh", ["-c", names.map((name) => `command -v ${name}`).join(" || ")], { encoding: "utf8" }).trim();

const launch = (...names: string[]) => ({
  executablePath: pathOf(...names),
  args: [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    // A microphone that hums, without a question for it.
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
  ],
});

/**
 * The browser without its own surroundings: what pages do is the same, for a fifth less of the machine. The whole one
 * where that is not there.
 */
export const pagesAlone = launch("chromium-headless-shell", "chromium");

/** The whole browser: it alone shows notices. */
export const wholeBrowser = launch("chromium");
