import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { CommandFault, timed } from "./timing.ts";

const SOURCES = [
  "app",
  "chart",
  "contracts",
  "core",
  "server",
  "public",
  "package-lock.json",
  "vite.config.ts",
  "react-router.config.ts",
];
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
    // What the tools have to say is only of interest when they fail.
    const { status, stdout, stderr } = spawnSync("node_modules/.bin/react-router", ["build"], {
      encoding: "utf8",
      env: { ...process.env, NODE_ENV: "production" },
    });
    if (status !== 0) throw new CommandFault(`The application could not be built.\n${stdout}\n${stderr}`);
    compressAssets("build/client/assets");
  });
}

/** Writes each text asset a second time, compressed as far as it goes: once here instead of at every request. */
function compressAssets(folder: string): void {
  for (const name of readdirSync(folder))
    if (/\.(js|css|svg)$/.test(name))
      writeFileSync(join(folder, `${name}.gz`), gzipSync(readFileSync(join(folder, name)), { level: 9 }));
}
