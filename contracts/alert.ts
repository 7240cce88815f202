import "reflect-metadata";
import { IsInt, IsObject, Max, Min, registerDecorator } from "class-validator";
import type { AlertTerms, Place } from "#core/alerts/alert";
import { RUNG } from "#contracts/mark";

const isPrice = (value: unknown): value is number =>
  typeof value === "number" && Number.isFinite(value) && Math.abs(value) <= 1e12;
const isText = (value: unknown, most: number): value is string => typeof value === "string" && value.length <= most;

/** A place from untrusted data; `undefined` when it is none. */
function readPlace(raw: unknown): Place | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { bottom, top, name, mark, leave } = raw as Record<string, unknown>;
  if (!isPrice(bottom) || !isPrice(top) || bottom > top || !isText(name, 80) || !isPrice(leave) || leave < 0)
    return undefined;
  if (mark !== undefined && !isText(mark, 36)) return undefined;
  return { bottom, top, name, leave, ...(mark === undefined ? {} : { mark }) };
}

/**
 * Terms of an alert from untrusted data; `undefined` when they cannot be read. Nothing but what is known of is kept.
 */
export function readTerms(raw: unknown): AlertTerms | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { on, again, note, rung, direction, candle, at, scenario } = raw as Record<string, unknown>;
  if (typeof again !== "boolean" || !isText(note, 300)) return undefined;
  const base = { again, note };
  const place = readPlace(at);
  // The server puts in what the scenario says as it is stored.
  if (on === "scenario") return isText(scenario, 36) ? { on, scenario, title: "", terms: {}, ...base } : undefined;
  if (on === "reach") return place && { on, at: place, ...base };
  if (!isText(rung, 10) || !RUNG.test(rung)) return undefined;
  if (on === "close") return { on, rung, ...base };
  if (on === "shift")
    return direction === "up" || direction === "down" || direction === "either"
      ? { on, rung, direction, ...base }
      : undefined;
  if (!place) return undefined;
  if (on === "beyond") return { on, rung, at: place, ...base };
  if (on === "candle")
    return candle === "indecision" || candle === "engulfing" || candle === "either"
      ? { on, rung, at: place, candle, ...base }
      : undefined;
  return undefined;
}

function AreTerms() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: "areTerms",
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value) => readTerms(value) !== undefined,
        defaultMessage: () => "what the alert waits for cannot be read",
      },
    });
}

/** The number of the newest firing that was seen. */
export class SeenDto {
  @IsInt()
  @Min(0)
  @Max(2_000_000_000)
  upTo!: number;
}

/** An alert that is to be set. */
export class AlertDto {
  @IsObject()
  @AreTerms()
  terms!: AlertTerms;
}
