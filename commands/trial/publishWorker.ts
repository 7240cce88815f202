import { openDatabase } from "../../server/database/connection.ts";
import { readSettings } from "../../server/settings.ts";
import { publishOnTrial } from "./desk.ts";

/** Publishes one edition after the other until it is killed; a dot for each. */
openDatabase(readSettings().COMPASS_DATABASE);
for (;;) {
  await publishOnTrial();
  process.stdout.write(".");
}
