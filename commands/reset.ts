import { existsSync, rmSync } from "node:fs";
import { createInterface } from "node:readline/promises";
import { folderOf, readDeskName, runningDesk } from "./desk/desk.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";

runCommand(async () => {
  const desk = readDeskName(process.argv[2]);
  const folder = folderOf(desk);
  if (runningDesk(desk)) throw new CommandFault(`The ${desk} is running. Stop it first: ./compass stop`);
  if (!existsSync(folder)) {
    process.stderr.write(`There is no data in ${folder}.\n`);
    return;
  }
  const ask = createInterface({ input: process.stdin, output: process.stderr });
  const said = await ask.question(
    `Everything in ${folder} is removed for good: markets, marks, editions, accounts. Type "${desk}" to go on: `,
  );
  ask.close();
  if (said.trim() !== desk) {
    process.stderr.write("Nothing was removed.\n");
    return;
  }
  rmSync(folder, { recursive: true });
  process.stderr.write(`Removed ${folder}.\n`);
});
