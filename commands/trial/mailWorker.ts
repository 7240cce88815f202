import { openDatabase } from "../../server/database/connection.ts";
import { runDelivery } from "../../server/delivery/deliver.ts";
import { readSettings } from "../../server/settings.ts";

/** Delivers what there is until it is killed. */
openDatabase(readSettings().COMPASS_DATABASE);
runDelivery(100);
process.stdout.write(".");
