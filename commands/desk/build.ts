import { execFileSync } from "node:child_process";
import { existsSync, readdirSync, statSync } from "node:fs";
import { join } from "node:path";
import { timed } from "./timing.ts";

const SOURCES = ["app", "chart", "contracts", "core", "server", "public", "package-lock.json", "vite.config.ts", "react-router.config.ts"];
const RESULT = "build/server/express.js";

function newest(path: string): number {
  const found = statSync(path);
  if (!found.isDirectory()) return found.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))));
}

/** Builds the application unless what was built is newer than every source. */
export async function ensureBuild(): Promise<void> {
  if (existsSync(RESULT) && statSync(RESULT).mtimeMs > Math.max(...SOURCES.map(newest))) return;
  await timed("Building", () => {
    execFileSync("node_modules/.bin/react-router", ["build"], { stdio: ["ignore", "pipe", "inherit"], env: { ...process.env, NODE_ENV: "production" } });
  });
}
