import type { Point } from "#core/projections/retracement";
import { asFields, readMoment, type Fields } from "./request.ts";
import { RequestFault } from "./fault.ts";

/** One parameter of a quantity: how it is read and what stands in when it is left out. */
export interface Parameter {
  name: string;
  /** In words, for the list of quantities and the schema. */
  type: string;
  fallback?: unknown;
  read(value: unknown, name: string): unknown;
}

export function whole(name: string, fallback?: number): Parameter {
  return {
    name,
    type: "whole number from 1",
    fallback,
    read(value) {
      if (typeof value !== "number" || !Number.isInteger(value) || value < 1 || value > 1e7)
        throw new RequestFault(`"${name}" must be a whole number from 1.`);
      return value;
    },
  };
}

/** A whole number from 1 to a limit. */
export function upTo(name: string, fallback: number, limit: number): Parameter {
  const type = `whole number from 1 to ${limit}`;
  return {
    ...{ name, type, fallback },
    read(value) {
      if (typeof value !== "number" || !Number.isInteger(value) || value < 1 || value > limit)
        throw new RequestFault(`"${name}" must be a ${type}.`);
      return value;
    },
  };
}

export function oneOf(name: string, values: readonly string[], fallback?: string): Parameter {
  return {
    name,
    type: `one of ${values.join(", ")}`,
    fallback,
    read(value) {
      if (typeof value !== "string" || !values.includes(value))
        throw new RequestFault(`"${name}" must be one of ${values.join(", ")}.`);
      return value;
    },
  };
}

export function number(name: string, fallback?: number): Parameter {
  return { name, type: "number", fallback, read: (value) => readNumber(value, name) };
}

export function readNumber(value: unknown, name: string): number {
  if (typeof value !== "number" || !Number.isFinite(value)) throw new RequestFault(`"${name}" must be a number.`);
  return value;
}

/** A number of 0 or more: what is less would make no sense, and is never taken for nothing. */
export function notNegative(name: string, fallback?: number): Parameter {
  return {
    name,
    type: "number from 0",
    fallback,
    read(value, field) {
      const read = readNumber(value, field);
      if (read < 0) throw new RequestFault(`"${name}" must be 0 or more.`);
      return read;
    },
  };
}

export function ratios(name: string, fallback: readonly number[]): Parameter {
  return {
    name,
    type: "list of numbers",
    fallback,
    read(value) {
      if (!Array.isArray(value) || value.length === 0) throw new RequestFault(`"${name}" must be a list of numbers.`);
      return value.map((ratio) => readNumber(ratio, name));
    },
  };
}

/** A value that only the quantity itself can read. */
export function raw(name: string, type: string, fallback?: unknown): Parameter {
  return { name, type, fallback, read: (value) => value };
}

export function readPoint(value: unknown, name: string, zone: string): Point {
  const point: Fields = asFields(value, name, ["time", "price"]);
  return { time: readMoment(point.time, `${name}.time`, zone), price: readNumber(point.price, `${name}.price`) };
}

/** What a computation says of figures that mean nothing is a fault of the request. */
export function orFault<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) throw new RequestFault(error.message);
    throw error;
  }
}
