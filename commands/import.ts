import { createReadStream, existsSync } from "node:fs";
import { basename } from "node:path";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { actingAs } from "../server/audit/actor.ts";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { Account } from "../server/database/models.ts";
import { Failure } from "../server/failure.ts";
import { importSent, sentOptions } from "../server/intake/sent.ts";
import { closePool } from "../server/pool/pool.ts";
import { openDesk, runningDatabase } from "./desk/desk.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";

/** Stores a file of bars on the own desk, while it runs or not: as the page does, and as its first owner. */
runCommand(async () => {
  const [market, file, ...rest] = process.argv.slice(2);
  if (!market || !file || !existsSync(file))
    throw new CommandFault(
      "./compass import MARKET FILE [timeframe=P1D] [zone=Europe/Lisbon] [differing=stored|file] [badRows=leaveOut]",
    );
  const url = runningDatabase("desk");
  const database = url ? undefined : await openDesk("desk");
  if (url) openDatabase(url);
  process.env.COMPASS_VAR ??= "var/desk";
  try {
    const owner = await Account.findOne({ where: { role: ["owner", "analyst"] }, order: [["createdAt", "ASC"]] });
    if (!owner) throw new CommandFault("Make an account first: ./compass account owner MAIL NAME");
    const body = Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>;
    const options = sentOptions(new URLSearchParams(rest.join("&")));
    const report = await actingAs(owner, () => importSent(market, body, basename(file), options, owner.id));
    process.stdout.write(
      report.already
        ? "The very file was imported before: nothing was changed.\n"
        : `${report.rows} rows: ${report.added} bars added, ${report.same} the same, ${report.differing} differing.\n`,
    );
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    const { kept, remedy } = error.body.failure;
    throw new CommandFault([error.sentence, kept, remedy].filter(Boolean).join(" "));
  } finally {
    await closePool();
    await closeDatabase();
    await database?.stop();
  }
});
