import { log } from "../server/log.ts";
import { requestId } from "../server/requestId.ts";

/** What a page waits for after it is shown is given up after this (ms): sooner than the answer itself is ended. */
export const LATEST = 20_000;

/**
 * What a page shows once it is there, without waiting for it; nothing where it fails or takes too long. That is logged
 * with the request's number, which the page shows in its place.
 */
export async function later<T>(
  what: string,
  work: () => Promise<T>,
  latest = LATEST,
): Promise<{ found: T } | { request: string }> {
  let timer: NodeJS.Timeout | undefined;
  const tooLate = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error(`It took longer than ${latest / 1000} s.`)), latest);
  });
  try {
    return { found: await Promise.race([work(), tooLate]) };
  } catch (error) {
    log.error({ what, error: error instanceof Error ? error.stack : String(error) }, "a part of a page is missing");
    return { request: requestId() ?? "" };
  } finally {
    clearTimeout(timer);
  }
}
