import { randomUUID } from "node:crypto";
import { signIn, type Target } from "./target.ts";
import { MARKETS, NOW, saver, SAVERS } from "./world.ts";

const DAY = 86_400_000;

export function levelStep(id = randomUUID()) {
  return {
    id: randomUUID(),
    step: "set",
    version: 0,
    mark: {
      id,
      kind: "level",
      rung: "P1D",
      anchors: [{ time: NOW - (NOW % DAY) - 10 * DAY, price: 400 }],
      props: { label: "saved" },
      note: "",
    },
  };
}

/** Sends steps of a market; the status, and whether they are stored for certain. */
export async function sendSteps(
  address: string,
  cookie: string,
  market: string,
  steps: object[],
): Promise<{ status: number; stored: boolean }> {
  try {
    const response = await fetch(new URL(`/descent/${market}/steps`, address), {
      method: "POST",
      headers: { Cookie: cookie, Origin: new URL(address).origin, "Content-Type": "application/json" },
      body: JSON.stringify({ steps }),
      signal: AbortSignal.timeout(20_000),
    });
    await response.arrayBuffer();
    return { status: response.status, stored: response.status === 200 };
  } catch {
    return { status: 0, stored: false };
  }
}

/** Everybody saves a mark at the same moment, so many times. */
export async function saveAtOnce(
  target: Target,
  rounds: number,
): Promise<{ median: number; p95: number; longest: number; refused: number }> {
  const cookies: string[] = [];
  for (let n = 0; n < SAVERS; n++) cookies.push(await signIn(target.address, { email: saver(n) }));
  const times: number[] = [];
  let refused = 0;
  for (let round = 0; round < rounds; round++) {
    await Promise.all(
      cookies.map(async (cookie, n) => {
        const began = performance.now();
        const { stored } = await sendSteps(target.address, cookie, MARKETS[n % MARKETS.length], [levelStep()]);
        times.push(performance.now() - began);
        if (!stored) refused++;
      }),
    );
    await new Promise((done) => setTimeout(done, 100));
  }
  times.sort((a, b) => a - b);
  return {
    median: times[Math.floor(times.length / 2)],
    p95: times[Math.floor(times.length * 0.95)],
    longest: times[times.length - 1],
    refused,
  };
}
