import { isInstant, parseClock } from "#core/time/dates";
import { parseTimeframe } from "#core/time/timeframe";
import { isZone } from "#core/time/zone";

/** What is wrong with terms that came from outside, in one sentence. */
export class ConditionFault extends Error {}

/** An instant in ms UTC from an untrusted value; throws a fault that names it by `path`. */
export type ReadInstant = (value: unknown, path: string) => number;

function readMilliseconds(value: unknown, path: string): number {
  if (typeof value !== "number" || !isInstant(value)) throw new ConditionFault(`"${path}" must be an instant.`);
  return value;
}

/** Fields of untrusted terms, read one by one; those that nobody asked for are a fault. */
export class Fields {
  private readonly asked = new Set<string>();

  private constructor(
    private readonly raw: Record<string, unknown>,
    /** Where they stand, for sentences: "if[0].when". */
    readonly path: string,
    /** Reads an instant that is not given in milliseconds. */
    readonly instant: ReadInstant,
  ) {}

  static of(raw: unknown, path: string, instant: ReadInstant = readMilliseconds): Fields {
    if (typeof raw !== "object" || raw === null || Array.isArray(raw))
      throw new ConditionFault(`"${path}" must be an object.`);
    return new Fields(raw as Record<string, unknown>, path, instant);
  }

  /** Fields of an object that stands within these. */
  at(raw: unknown, name: string): Fields {
    return Fields.of(raw, `${this.path}.${name}`, this.instant);
  }

  /** Throws when there is a field that was not asked for. */
  done(): void {
    const stray = Object.keys(this.raw).find((name) => this.raw[name] !== undefined && !this.asked.has(name));
    if (stray !== undefined) this.fault(stray, `is not known here; known are ${[...this.asked].join(", ")}`);
  }

  take(name: string): unknown {
    this.asked.add(name);
    return this.raw[name];
  }

  has(name: string): boolean {
    return this.take(name) !== undefined && this.raw[name] !== null;
  }

  fault(name: string, why: string): never {
    throw new ConditionFault(`"${this.path}.${name}" ${why}.`);
  }

  /** An instant in ms UTC. */
  moment(name: string): number {
    return this.instant(this.take(name), `${this.path}.${name}`);
  }

  price(name: string): number {
    return this.number(name, -Infinity);
  }

  /** A number of at least `least`, or above it where it must be more. */
  number(name: string, least: number, above = false): number {
    const value = this.take(name);
    if (typeof value !== "number" || !Number.isFinite(value) || value < least || (above && value === least))
      this.fault(name, `must be a number${least === -Infinity ? "" : above ? ` above ${least}` : ` from ${least}`}`);
    return value as number;
  }

  whole(name: string, least: number, most: number, fallback?: number): number {
    const value = this.take(name) ?? fallback;
    if (!Number.isInteger(value) || (value as number) < least || (value as number) > most)
      this.fault(name, `must be a whole number from ${least} to ${most}`);
    return value as number;
  }

  oneOf<T extends string>(name: string, known: readonly T[]): T {
    const value = this.take(name);
    const found = known.find((one) => one === value);
    return found ?? this.fault(name, `must be ${known.map((one) => `"${one}"`).join(" or ")}`);
  }

  /** [bottom, top], the bottom not above the top. */
  band(name: string): [number, number] {
    const value = this.take(name);
    const [bottom, top] = Array.isArray(value) && value.length === 2 ? (value as unknown[]) : [];
    if (typeof bottom !== "number" || typeof top !== "number" || !(bottom <= top) || !Number.isFinite(top - bottom))
      return this.fault(name, "must be two prices, the lower first");
    return [bottom, top];
  }

  /** An ISO 8601 timeframe, where it is given. */
  rung(name = "rung"): { rung?: string } {
    if (!this.has(name)) return {};
    const value = this.raw[name];
    if (typeof value !== "string" || !parseTimeframe(value))
      this.fault(name, "must be an ISO 8601 duration such as PT1H");
    return { rung: value as string };
  }

  clock(name: string): string {
    const value = this.take(name);
    if (typeof value !== "string" || parseClock(value) === undefined)
      this.fault(name, "must be a clock time such as 08:30");
    return value as string;
  }

  zone(name: string): { zone?: string } {
    if (!this.has(name)) return {};
    const value = this.raw[name];
    if (typeof value !== "string" || !isZone(value)) this.fault(name, "must be a zone of the IANA database");
    return { zone: value as string };
  }

  list(name: string, least: number, most: number): unknown[] {
    const value = this.take(name);
    if (!Array.isArray(value) || value.length < least || value.length > most)
      this.fault(name, `must be a list of ${least === most ? least : `${least} to ${most}`}`);
    return value as unknown[];
  }
}
