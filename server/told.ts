import { isDiskFull, isUnreachable } from "./database/connection.ts";
import { Failure } from "./failure.ts";
import { log } from "./log.ts";
import { requestId } from "./requestId.ts";

const AWAY = new Failure("database", "The desk's database does not answer at this moment.", {
  status: 503,
  kept: "What was stored before is safe; what you just sent was not stored.",
  remedy: "It is being started again: try once more in a few seconds.",
});

const FULL = new Failure("disk", "The desk's disk is full.", {
  status: 507,
  kept: "What was stored before is safe; what you just sent was not stored.",
  remedy: "Whoever looks after the machine makes room; then send it once more.",
});

/**
 * What whoever waits is told of an error. What nobody expected is written down, once, under the number that is told;
 * nothing of its inside is. `what` is what was not done, for the log.
 */
export function told(error: unknown, what: string): Failure {
  if (error instanceof Failure) return error;
  if (isUnreachable(error)) return AWAY;
  if (isDiskFull(error)) return FULL;
  log.error({ error: error instanceof Error ? error.stack : String(error) }, what);
  const id = requestId();
  return new Failure("unexpected", "Something went wrong on our side; it has been noted.", {
    status: 500,
    ...(id === undefined ? {} : { requestId: id }),
  });
}
