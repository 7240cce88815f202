import type { Sequelize } from "sequelize";
import { bindAccounts } from "./models/accounts.ts";
import { bindBars } from "./models/bars.ts";
import { bindDesk } from "./models/desk.ts";
import { bindPublishing } from "./models/publishing.ts";
import { bindReaders } from "./models/readers.ts";
import { bindRound } from "./models/round.ts";
import { bindWatch } from "./models/watch.ts";

export * from "./models/accounts.ts";
export * from "./models/bars.ts";
export * from "./models/desk.ts";
export * from "./models/publishing.ts";
export * from "./models/readers.ts";
export * from "./models/round.ts";
export * from "./models/watch.ts";

/** Binds every model to a connection. */
export function bindModels(sequelize: Sequelize): void {
  bindAccounts(sequelize);
  bindBars(sequelize);
  bindDesk(sequelize);
  bindPublishing(sequelize);
  bindReaders(sequelize);
  bindRound(sequelize);
  bindWatch(sequelize);
}
