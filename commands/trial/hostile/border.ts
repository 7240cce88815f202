import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { startMariaDb } from "../../desk/mariadb.ts";
import { CommandFault } from "../../desk/timing.ts";

const FOLDER = "var/trial-border";
/** What is asked: columns that are changed, numbers by plan and way out, and a verifier of somebody else. */
const ASKED = [
  "server/record/columns.test.ts",
  "server/readers/waysOut.test.ts",
  "server/publishing/shownWith.test.ts",
  "server/record/secondVerifier.test.ts",
];

/** Asks at length what the tests ask in short, of what leaves the desk and of what the record proves. */
export async function borderTrial(say: (line: string) => void): Promise<void> {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  const database = await startMariaDb(FOLDER);
  try {
    const child = spawn("node_modules/.bin/vitest", ["run", "--project", "stored", ...ASKED], {
      stdio: ["ignore", "pipe", "inherit"],
      env: {
        ...process.env,
        ...{ COMPASS_DATABASE: database.url, COMPASS_VAR: FOLDER, COMPASS_LOG: "silent", COMPASS_FIGURES: "yes" },
      },
    });
    let said = "";
    child.stdout.on("data", (part: Buffer) => (said += part.toString()));
    const status = await new Promise((done) => child.once("close", done));
    if (status !== 0) throw new CommandFault(`What leaves the desk is not what it should be.\n${said.slice(-4_000)}`);
    for (const line of said.split("\n")) if (/ numbers found$|^columns changed/.test(line)) say(line);
  } finally {
    await database.stop();
    rmSync(FOLDER, { recursive: true, force: true });
  }
}
