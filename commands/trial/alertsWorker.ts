import { advance } from "../../server/intake/feed.ts";
import { openDatabase } from "../../server/database/connection.ts";
import { readSettings } from "../../server/settings.ts";

/** Plays the tape as fast as it goes until it is killed. */
openDatabase(readSettings().COMPASS_DATABASE);
for (;;) {
  await advance(20);
  process.stdout.write(".");
}
