import type { Sequelize } from "sequelize";
import { SequelizeStorage, Umzug } from "umzug";
import * as ground from "./migrations/0001-ground.ts";
import * as barsAndRungs from "./migrations/0002-bars-and-rungs.ts";
import * as chartsAndCopies from "./migrations/0003-charts-and-copies.ts";
import * as findings from "./migrations/0004-findings.ts";
import * as round from "./migrations/0005-round.ts";
import * as counts from "./migrations/0006-counts.ts";
import * as heldToAccount from "./migrations/0007-held-to-account.ts";
import * as watchers from "./migrations/0008-watchers.ts";
import * as scenarioNamed from "./migrations/0009-scenario-named.ts";
import * as ownSentences from "./migrations/0010-own-sentences.ts";
import * as editionBlocks from "./migrations/0011-edition-blocks.ts";
import * as plans from "./migrations/0012-plans.ts";
import * as goingOut from "./migrations/0013-going-out.ts";
import * as readers from "./migrations/0014-readers.ts";
import * as hooks from "./migrations/0016-hooks.ts";
import * as memberships from "./migrations/0017-memberships.ts";
import * as passkeys from "./migrations/0018-passkeys.ts";
import * as push from "./migrations/0019-push.ts";
import * as leases from "./migrations/0020-leases.ts";
import * as closes from "./migrations/0021-closes.ts";
import * as proven from "./migrations/0022-proven.ts";
import * as importJobs from "./migrations/0023-import-jobs.ts";
import * as studies from "./migrations/0024-studies.ts";
import * as worth from "./migrations/0025-worth.ts";
import * as voices from "./migrations/0015-voices.ts";

/** In order; names are stored in the database and never change. */
const migrations = [
  { name: "0001-ground", ...ground },
  { name: "0002-bars-and-rungs", ...barsAndRungs },
  { name: "0003-charts-and-copies", ...chartsAndCopies },
  { name: "0004-findings", ...findings },
  { name: "0005-round", ...round },
  { name: "0006-counts", ...counts },
  { name: "0007-held-to-account", ...heldToAccount },
  { name: "0008-watchers", ...watchers },
  { name: "0009-scenario-named", ...scenarioNamed },
  { name: "0010-own-sentences", ...ownSentences },
  { name: "0011-edition-blocks", ...editionBlocks },
  { name: "0012-plans", ...plans },
  { name: "0013-going-out", ...goingOut },
  { name: "0014-readers", ...readers },
  { name: "0015-voices", ...voices },
  { name: "0016-hooks", ...hooks },
  { name: "0017-memberships", ...memberships },
  { name: "0018-passkeys", ...passkeys },
  { name: "0019-push", ...push },
  { name: "0020-leases", ...leases },
  { name: "0021-closes", ...closes },
  { name: "0022-proven", ...proven },
  { name: "0023-import-jobs", ...importJobs },
  { name: "0024-studies", ...studies },
  { name: "0025-worth", ...worth },
];

/** The step that makes the first tables: where it was just done, a desk begins. */
export const FIRST_STEP = "0001-ground";

export function migrator(sequelize: Sequelize) {
  return new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: "migrations" }),
    logger: undefined,
  });
}
