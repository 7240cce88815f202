import PQueue from "p-queue";
import { RateLimiterMemory, RateLimiterRes } from "rate-limiter-flexible";
import { Failure } from "../failure.ts";

/**
 * Requests that one account, and one address without any, may make within so many seconds. A walk through a round asks
 * for twenty a second at its quickest; several people without an account may share an address.
 */
const byAccount = new RateLimiterMemory({ points: 2_400, duration: 30 });
const byCaller = new RateLimiterMemory({ points: 900, duration: 30 });

/** Counts a request; throws a `Failure` when there were too many of late. */
export async function countRequest(account: string | undefined, caller: string): Promise<void> {
  try {
    await (account === undefined ? byCaller.consume(caller) : byAccount.consume(account));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new Failure("too-many", "Too much was asked for in a short time.", {
      status: 429,
      remedy: `Wait ${Math.ceil(error.msBeforeNext / 1000)} s and go on.`,
    });
  }
}

/** Expensive answers that are worked out beside each other in this process, and those of one account that may wait. */
const AT_ONCE = 3;
const WAITING = 40;

const queue = new PQueue({ concurrency: AT_ONCE });
const waiting = new Map<string, number>();

/**
 * Works out something expensive in turn, so that a hundred pictures asked for at once delay nobody else; those of an
 * account that already has many waiting are refused, and what nobody waits for any more is not begun.
 */
export async function inTurn<T>(account: string, signal: AbortSignal, work: () => Promise<T>): Promise<T> {
  const before = waiting.get(account) ?? 0;
  if (before >= WAITING)
    throw new Failure("too-many", "Too much is being worked out for you at this moment.", {
      status: 429,
      remedy: "Wait until it is there, then ask for more.",
    });
  waiting.set(account, before + 1);
  try {
    return (await queue.add(async () => {
      if (signal.aborted) throw new Failure("gone", "Nobody waits for this any more.", { status: 499 });
      // Whoever asks for little comes between two that ask for much.
      await new Promise((done) => setImmediate(done));
      return work();
    })) as T;
  } finally {
    const left = (waiting.get(account) ?? 1) - 1;
    if (left > 0) waiting.set(account, left);
    else waiting.delete(account);
  }
}
