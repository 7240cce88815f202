import { Failure } from "../failure.ts";

/** Streams an account may have open at once: so many windows nobody looks at. */
const MOST = 24;
/** How often it is asked whether whoever listens may still (ms). */
const BEAT = 5_000;

const open = new Map<string, number>();

/**
 * Opens a stream of an account: it ends when the browser leaves, and within a beat when its session has ended. Throws a
 * `Failure` when the account has too many open. `leave` must be called once it is over, whatever ended it.
 */
export function openStream(
  account: string,
  left: AbortSignal,
  stillIn: () => Promise<boolean>,
  beat = BEAT,
): { signal: AbortSignal; leave: () => void } {
  const before = open.get(account) ?? 0;
  if (before >= MOST)
    throw new Failure("too-many", "Too many windows of this desk are open.", {
      status: 429,
      remedy: "Close some of them.",
    });
  open.set(account, before + 1);
  const over = new AbortController();
  const timer = setInterval(() => {
    // A database that is away for a moment ends nobody's session.
    void stillIn().then(
      (still) => still || over.abort(),
      () => {},
    );
  }, beat);
  let gone = false;
  const leave = () => {
    if (gone) return;
    gone = true;
    clearInterval(timer);
    over.abort();
    const rest = (open.get(account) ?? 1) - 1;
    if (rest > 0) open.set(account, rest);
    else open.delete(account);
  };
  left.addEventListener("abort", leave, { once: true });
  over.signal.addEventListener("abort", leave, { once: true });
  return { signal: over.signal, leave };
}

export function openStreams(account: string): number {
  return open.get(account) ?? 0;
}
