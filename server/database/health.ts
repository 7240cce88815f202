import mariadb, { type Connection } from "mariadb";

/** How long the database may take to answer before it counts as away (ms). */
const PATIENCE = 700;

let connection: Connection | undefined;
let asking: Promise<boolean> | undefined;

/**
 * Whether the database answers. It is asked over a connection of its own, so that a pool that is in use says nothing of
 * the database; those who ask at once share one answer.
 */
export function databaseAnswers(url: string): Promise<boolean> {
  asking ??= ask(url).finally(() => (asking = undefined));
  return asking;
}

async function ask(url: string): Promise<boolean> {
  const answer = (async () => {
    connection ??= await mariadb.createConnection(optionsOf(url));
    await connection.query("SELECT 1");
    return true;
  })().catch(() => false);
  const late = new Promise<boolean>((done) => setTimeout(() => done(false), PATIENCE).unref());
  const answers = await Promise.race([answer, late]);
  if (!answers) closeHealth();
  return answers;
}

function optionsOf(url: string) {
  const { hostname: host, port, username: user, password } = new URL(url);
  return { host, port: Number(port), user, password, connectTimeout: PATIENCE };
}

export function closeHealth(): void {
  connection?.destroy();
  connection = undefined;
}
