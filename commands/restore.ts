import { existsSync } from "node:fs";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { Account, Market } from "../server/database/models.ts";
import { readArchive } from "./desk/archive.ts";
import { openDesk, readDeskName, runningDesk } from "./desk/desk.ts";
import { CommandFault, runCommand, timed } from "./desk/timing.ts";

runCommand(async () => {
  const desk = readDeskName(process.argv[2]);
  const file = process.argv[3];
  if (!file || !existsSync(file))
    throw new CommandFault(file ? `There is no file ${file}.` : "./compass restore demo|desk FILE");
  if (runningDesk(desk)) throw new CommandFault(`The ${desk} is running. Stop it first: ./compass stop`);
  const database = await openDesk(desk);
  try {
    if ((await Market.count()) > 0 || (await Account.count()) > 0)
      throw new CommandFault(`The ${desk} is not empty. Remove what is there first: ./compass reset ${desk}`);
    const rows = await timed(`Putting ${file} back`, () => readArchive(openDatabase(database.url), file));
    process.stderr.write(`${rows} rows were put back. Everybody signs in anew.\n`);
  } finally {
    await closeDatabase();
    await database.stop();
  }
});
