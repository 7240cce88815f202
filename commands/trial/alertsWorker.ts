import { advance } from "../../server/feed/feed.ts";
import { watchAlerts } from "../../server/alerts/watch.ts";
import { openDatabase } from "../../server/database/connection.ts";
import { readSettings } from "../../server/settings.ts";

/** Plays the tape as fast as it goes, with the alerts watched beside it, until it is killed. */
openDatabase(readSettings().COMPASS_DATABASE);
watchAlerts(20);
for (;;) {
  await advance(20);
  process.stdout.write(".");
}
