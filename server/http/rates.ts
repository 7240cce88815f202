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
  const sentence = "Too much was asked for in a short time.";
  await (account === undefined ? counted(byCaller, caller, sentence) : counted(byAccount, account, sentence));
}

/** Steps that store something for whoever asks, known or not: so many within so many seconds. */
const STEPS = {
  join: new RateLimiterMemory({ points: 20, duration: 600 }),
  passkey: new RateLimiterMemory({ points: 60, duration: 600 }),
  recording: new RateLimiterMemory({ points: 120, duration: 3_600 }),
} as const;

/** Counts such a step of somebody, by their address or account; throws a `Failure` when there were too many of late. */
export async function countStep(step: keyof typeof STEPS, who: string): Promise<void> {
  await counted(STEPS[step], who, "This was done too often in a short time.");
}

async function counted(limiter: RateLimiterMemory, who: string, sentence: string): Promise<void> {
  try {
    await limiter.consume(who);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new Failure("too-many", sentence, {
      status: 429,
      until: Date.now() + error.msBeforeNext,
      kept: "Nothing was changed.",
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
