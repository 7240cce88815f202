import { randomUUID } from "node:crypto";
import { QueryTypes, type QueryInterface } from "sequelize";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";
const OF_MARKET = "FOREIGN KEY (marketId) REFERENCES markets (id) ON DELETE CASCADE";
const OF_EDITION = "FOREIGN KEY (edition) REFERENCES editions (number)";

/** Rows that name an account, and the accounts they name. */
const NAMED = [
  ["marks", "author"],
  ["drafts", "accountId"],
  ["scenarios", "accountId"],
] as const;

const BEFORE = [
  // One table for whoever watches a market; how far a market's watchers have been told stands at the market.
  `CREATE TABLE watchers (id CHAR(36) NOT NULL, kind VARCHAR(10) NOT NULL, subject VARCHAR(60) NOT NULL,
    marketId VARCHAR(60) NOT NULL, state JSON NOT NULL, since DOUBLE NOT NULL, done BOOLEAN NOT NULL,
    through DOUBLE NULL, PRIMARY KEY (id), UNIQUE KEY (kind, subject), KEY (marketId, done), ${OF_MARKET}) ${TABLE}`,
  `ALTER TABLE markets ADD toldThrough DOUBLE NULL`,
  // Steps in the order they were made, so that a desk put to a past moment shows the version of then.
  `ALTER TABLE mark_steps ADD number INT NULL`,
  `SET @n = 0`,
  `UPDATE mark_steps SET number = (@n := @n + 1) ORDER BY wallTime, id`,
  `ALTER TABLE mark_steps MODIFY number INT NOT NULL AUTO_INCREMENT UNIQUE`,
  `CREATE TABLE scenario_steps (number INT NOT NULL AUTO_INCREMENT, scenarioId CHAR(36) NOT NULL,
    marketId VARCHAR(60) NOT NULL, plan JSON NOT NULL, removed BOOLEAN NOT NULL, marketTime DOUBLE NOT NULL,
    PRIMARY KEY (number), KEY (marketId, marketTime), ${OF_MARKET}) ${TABLE}`,
  `INSERT INTO scenario_steps (scenarioId, marketId, plan, removed, marketTime)
    SELECT id, marketId, plan, removed, writtenAt FROM scenarios`,
];

const AFTER = [
  `UPDATE markets SET toldThrough = (SELECT MAX(told) FROM (SELECT marketId, lastTime AS told FROM followed_plans
    UNION ALL SELECT marketId, told FROM alerts UNION ALL SELECT marketId, notedAt FROM setups) AS all_told
    WHERE all_told.marketId = markets.id)`,
  `ALTER TABLE follow_ups DROP FOREIGN KEY follow_ups_ibfk_1, ADD CONSTRAINT follow_ups_of_edition ${OF_EDITION}`,
  `ALTER TABLE outcome_notes DROP FOREIGN KEY outcome_notes_ibfk_1, ADD CONSTRAINT ` +
    `outcome_notes_of_edition ${OF_EDITION}`,
  `DROP TABLE followed_plans`,
  `ALTER TABLE alerts ADD KEY (marketId)`,
  `ALTER TABLE alerts DROP KEY marketId, DROP state, DROP told, DROP active`,
  // What an alert saw is kept in numbers; the sentences of early ones stay.
  `ALTER TABLE firings ADD detail JSON NULL, MODIFY says VARCHAR(500) NULL`,
  ...NAMED.map(
    ([table, column]) =>
      `ALTER TABLE ${table} ADD CONSTRAINT ${table}_of_account FOREIGN KEY (${column}) REFERENCES accounts (id)`,
  ),
];

const DOWN = [
  ...NAMED.map(([table]) => `ALTER TABLE ${table} DROP FOREIGN KEY ${table}_of_account`),
  `UPDATE firings SET says = '' WHERE says IS NULL`,
  `ALTER TABLE firings DROP detail, MODIFY says VARCHAR(500) NOT NULL`,
  `ALTER TABLE alerts ADD state JSON NOT NULL DEFAULT '[]', ADD told DOUBLE NOT NULL DEFAULT 0,
    ADD active BOOLEAN NOT NULL DEFAULT 1`,
  `ALTER TABLE alerts ADD KEY (marketId, active)`,
  `CREATE TABLE followed_plans (edition INT NOT NULL, scenarioId CHAR(36) NOT NULL, marketId VARCHAR(60) NOT NULL,
    state JSON NOT NULL, since DOUBLE NOT NULL DEFAULT 0, lastTime DOUBLE NOT NULL, done BOOLEAN NOT NULL,
    PRIMARY KEY (edition, scenarioId), KEY (marketId, done), ${OF_EDITION}) ${TABLE}`,
  `INSERT INTO followed_plans SELECT SUBSTRING_INDEX(subject, '/', 1), SUBSTRING_INDEX(subject, '/', -1), marketId,
    state,
    since, COALESCE(through, (SELECT toldThrough FROM markets WHERE markets.id = marketId), since), done
    FROM watchers WHERE kind = 'scenario'`,
  `ALTER TABLE follow_ups DROP FOREIGN KEY follow_ups_of_edition,
    ADD CONSTRAINT follow_ups_ibfk_1 FOREIGN KEY (edition, scenarioId) REFERENCES followed_plans (edition, scenarioId)`,
  `ALTER TABLE outcome_notes DROP FOREIGN KEY outcome_notes_of_edition,
    ADD CONSTRAINT outcome_notes_ibfk_1 FOREIGN KEY (edition, scenarioId) REFERENCES followed_plans (edition,
    scenarioId)`,
  `DROP TABLE scenario_steps`,
  `ALTER TABLE mark_steps DROP number`,
  `ALTER TABLE markets DROP toldThrough`,
  `DROP TABLE watchers`,
];

type Json<T> = T | string;

interface Followed {
  edition: number;
  scenarioId: string;
  marketId: string;
  state: Json<{
    phase: string;
    entered: number;
    stop: number;
    hit: number;
    realised: number;
    best: number;
    worst: number;
  }>;
  since: number;
  lastTime: number;
  done: number;
  canonical: string;
}

interface FrozenPlan {
  id: string;
  direction: "long" | "short";
  entry: { price: number };
  stop: number;
}

interface Watcher {
  kind: string;
  subject: string;
  marketId: string;
  state: unknown;
  since: number;
  done: boolean;
  through: number | null;
}

export async function up({ context }: { context: QueryInterface }): Promise<void> {
  const { sequelize } = context;
  const all = <T extends object>(sql: string) => sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  for (const statement of BEFORE) await sequelize.query(statement);
  const followed = await all<Followed>(
    `SELECT followed_plans.*, canonical FROM followed_plans JOIN editions ON editions.number = edition`,
  );
  const alerts = await all<{ id: string; marketId: string; state: Json<unknown>; told: number; active: number }>(
    `SELECT id, marketId, state, told, active FROM alerts`,
  );
  const setups = await all<{
    id: string;
    marketId: string;
    setup: Json<{ entry: number; stop: number }>;
    notedAt: number;
  }>(`SELECT id, marketId, setup, notedAt FROM setups`);
  const watchers: Watcher[] = [
    ...followed.map(ofPlan),
    ...alerts.map(({ id, marketId, state, told, active }) => ({
      kind: "alert",
      subject: id,
      marketId,
      state: { places: read(state), fired: !active },
      since: told,
      done: !active,
      through: active ? null : told,
    })),
    ...setups.map(({ id, marketId, setup, notedAt }) => {
      const { entry, stop } = read(setup);
      const trade = armed(Math.abs(entry - stop), stop);
      const run = { ...blank(notedAt), phase: "armed", trade };
      return {
        kind: "setup",
        subject: id,
        marketId,
        state: { run, events: [] },
        since: notedAt,
        done: false,
        through: null,
      };
    }),
  ];
  for (const { kind, subject, marketId, state, since, done, through } of watchers)
    await sequelize.query(
      `INSERT INTO watchers (id, kind, subject, marketId, state, since, done, through) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
      { replacements: [randomUUID(), kind, subject, marketId, JSON.stringify(state), since, done, through] },
    );
  for (const statement of AFTER) await sequelize.query(statement);
}

/** A followed plan stands as a watcher where it stood; its risk is that of the plan as it was frozen. */
function ofPlan({ edition, scenarioId, marketId, state, since, lastTime, done, canonical }: Followed): Watcher {
  const { phase, entered, stop, hit, realised, best, worst } = read(state);
  const { sections } = JSON.parse(canonical) as { sections: { scenarios: FrozenPlan[] }[] };
  const plan = sections.flatMap(({ scenarios }) => scenarios).find(({ id }) => id === scenarioId);
  const risk = plan ? Math.abs(plan.entry.price - plan.stop) : 1;
  const begun = phase !== "waiting";
  const fresh = armed(risk, plan?.stop ?? stop);
  const trade = { ...fresh, phase, fill: entered, stop: stop || fresh.stop, hit, free: hit > 0, realised };
  const met = begun ? [{ high: 0, low: 0, close: 0 }] : [];
  const own = blank(since);
  const whole = { ...own, phase, steps: { ...own.steps, met }, trade: begun ? trade : null, best, worst };
  const ended = Boolean(done);
  return {
    kind: "scenario",
    subject: `${edition}/${scenarioId}`,
    marketId,
    state: whole,
    since,
    done: ended,
    through: ended ? lastTime : null,
  };
}

function blank(since: number) {
  const steps = { since, met: [] as object[], judged: 0, own: null };
  return {
    phase: "waiting",
    steps,
    holds: [],
    unless: [],
    trade: null,
    others: null,
    best: 0,
    worst: 0,
    ambiguous: false,
    close: 0,
  };
}

function armed(risk: number, stop: number) {
  return { phase: "armed", fill: 0, risk, stop, hit: 0, free: false, realised: 0 };
}

export async function down({ context }: { context: QueryInterface }): Promise<void> {
  for (const statement of DOWN) await context.sequelize.query(statement);
}

function read<T>(json: Json<T>): T {
  return typeof json === "string" ? (JSON.parse(json) as T) : json;
}
