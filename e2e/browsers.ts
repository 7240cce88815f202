import { execFileSync } from "node:child_process";

const pathOf = (name: string) => execFileSync("sh", ["-c", `command -v ${name}`], { encoding: "utf8" }).trim();

const launch = (name: string) => ({
  executablePath: pathOf(name),
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

/** The browser without its own surroundings: what pages do is the same, for a fifth less of the machine. */
export const pagesAlone = launch("chromium-headless-shell");

/** The whole browser: it alone shows notices. */
export const wholeBrowser = launch("chromium");
