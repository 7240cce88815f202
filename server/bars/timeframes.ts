import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { RUNG } from "#contracts/mark";
import { Failure } from "../failure.ts";

export function readTimeframe(text: string): Timeframe {
  const timeframe = RUNG.test(text) ? parseTimeframe(text) : undefined;
  if (!timeframe)
    throw new Failure("timeframe", `"${text.slice(0, 20)}" is not a timeframe such as PT4H, P1D or P3M.`, {
      status: 400,
    });
  return timeframe;
}
