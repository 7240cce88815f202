import { renameSync, rmSync } from "node:fs";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { writeArchive } from "./desk/archive.ts";
import { openDesk, readDeskName, runningDatabase } from "./desk/desk.ts";
import { CommandFault, runCommand, timed } from "./desk/timing.ts";

runCommand(async () => {
  const desk = readDeskName(process.argv[2]);
  const file = process.argv[3];
  if (!file) throw new CommandFault("./compass backup demo|desk FILE");
  const url = runningDatabase(desk);
  const database = url ? undefined : await openDesk(desk);
  try {
    const part = `${file}.part`;
    const rows = await timed(`Writing ${file}`, () => writeArchive(openDatabase(url ?? database!.url), part)).catch(
      (error: unknown) => {
        rmSync(part, { force: true });
        throw error;
      },
    );
    renameSync(part, file);
    process.stderr.write(
      `${rows} rows are in ${file}. It holds password hashes: keep it where others cannot read it. The key ` +
        `that signs the record is not in it: keep a copy of the desk's folder record/ apart.\n`,
    );
  } finally {
    await closeDatabase();
    await database?.stop();
  }
});
