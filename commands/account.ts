import { createInterface } from "node:readline/promises";
import { NewAccountDto, SHORTEST_PASSWORD } from "#contracts/account";
import { readDto } from "#contracts/read";
import { createAccount } from "../server/accounts/accounts.ts";
import { passwordFault } from "../server/accounts/passwords.ts";
import { closeDatabase, openDatabase } from "../server/database/connection.ts";
import { Failure } from "../server/failure.ts";
import { openDesk, runningDatabase } from "./desk/desk.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";

/** The password comes from standard input, never from the arguments, which other users of a machine can read. */
async function askPassword(): Promise<string> {
  const ask = createInterface({ input: process.stdin, output: process.stderr });
  const password = await ask.question(`Password (at least ${SHORTEST_PASSWORD} characters): `);
  ask.close();
  return password;
}

runCommand(async () => {
  const [role, email, ...name] = process.argv.slice(2);
  if (role !== "owner" && role !== "analyst" && role !== "subscriber")
    throw new CommandFault("./compass account owner|analyst|subscriber MAIL NAME");
  const read = readDto(NewAccountDto, { email, name: name.join(" "), password: await askPassword() });
  if (!read.ok) throw new CommandFault(Object.values(read.fields).join(" "));
  const fault = await passwordFault(read.value.password, read.value);
  if (fault) throw new CommandFault(fault);
  const url = runningDatabase("desk");
  const database = url ? undefined : await openDesk("desk");
  if (url) openDatabase(url);
  try {
    await createAccount(read.value, role);
    process.stderr.write(`${role} ${email} can now sign in.\n`);
  } catch (error) {
    throw error instanceof Failure ? new CommandFault(error.sentence) : error;
  } finally {
    await closeDatabase();
    await database?.stop();
  }
});
