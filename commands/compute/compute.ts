import { readFileSync } from "node:fs";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { allocate } from "#core/series/series";
import { RequestFault } from "./fault.ts";
import { quantities } from "./quantities.ts";
import type { Params, Quantity } from "./quantity.ts";
import { asFields, readInput, REQUEST, type Fields, type Input } from "./request.ts";

const NO_BARS: Input = {
  layers: [],
  series: allocate(0),
  timeframe: { count: 1, unit: "day" },
  calendar: new Calendar(ALL_HOURS),
  zone: "UTC",
  tick: () => 1,
  also: {},
  asOf: undefined,
};

/** Answers a request; throws RequestFault with one sentence when it cannot. */
export function compute(request: Fields): { answers: { quantity: string; params: Params; values: Params[] }[] } {
  asFields(request, "request", REQUEST);
  if (!Array.isArray(request.ask) || request.ask.length === 0)
    throw new RequestFault(`"ask" must be a list of quantities.`);
  const asked = request.ask.map((ask, i) => readAsk(asFields(ask, `ask[${i}]`)));
  const input = readInput(request);
  return {
    answers: asked.map(({ quantity, given, params }) => {
      if (!input && !quantity.withoutBars) throw new RequestFault(`"${quantity.name}" needs "bars".`);
      return { quantity: quantity.name, params: given, values: quantity.values(params, input ?? NO_BARS) };
    }),
  };
}

/** A quantity, its parameters as they were given, and the same with what stands in for those left out. */
function readAsk({ quantity: name, ...given }: Fields): { quantity: Quantity; given: Params; params: Params } {
  const quantity = quantities.find((one) => one.name === name);
  if (!quantity) throw new RequestFault(`There is no quantity "${String(name)}"; --list names them.`);
  const stray = Object.keys(given).find((key) => !quantity.parameters.some((one) => one.name === key));
  if (stray) throw new RequestFault(`"${quantity.name}" has no parameter "${stray}".`);
  const params: Params = {};
  for (const { name: key, fallback, read } of quantity.parameters) {
    const value = given[key] ?? fallback;
    if (value === undefined) throw new RequestFault(`"${quantity.name}" needs "${key}".`);
    params[key] = read(value, key);
  }
  return { quantity, given, params };
}

export function listText(): string {
  return quantities
    .map(({ name, says, parameters, fields }) => {
      const shown = parameters.map(({ name: key, type, fallback }) => {
        const standing = fallback === undefined ? "" : `, ${JSON.stringify(fallback)} if left out`;
        return `    ${key}: ${type}${standing}`;
      });
      return [`${name}: ${says}`, ...shown, `    -> ${fields.join(", ")}`].join("\n");
    })
    .join("\n");
}

/** A JSON Schema (draft 2020-12) of what can be asked, made from the same table the answers come from. */
export function requestSchema(): object {
  const asks = quantities.map(({ name, says, parameters }) => ({
    type: "object",
    description: says,
    properties: {
      quantity: { const: name },
      ...Object.fromEntries(
        parameters.map(({ name: key, type, fallback }) => [
          key,
          { description: type, ...(fallback === undefined ? {} : { default: fallback }) },
        ]),
      ),
    },
    required: ["quantity", ...parameters.filter(({ fallback }) => fallback === undefined).map(({ name: key }) => key)],
    additionalProperties: false,
  }));
  const text = { type: "string" };
  const file = {
    type: "object",
    properties: { file: text, timeframe: text, timezone: text },
    required: ["file"],
    additionalProperties: false,
  };
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "A request to ./compass compute",
    type: "object",
    properties: {
      bars: { anyOf: [file, { type: "array", minItems: 1, items: file }] },
      market: {
        type: "object",
        properties: {
          tick: { type: "number" },
          timezone: text,
          sessions: { type: "array" },
          holidays: { type: "array" },
          halfDays: { type: "object" },
        },
        additionalProperties: false,
      },
      timeframe: text,
      asOf: text,
      also: {
        type: "object",
        additionalProperties: { anyOf: [file, { type: "array", minItems: 1, items: file }] },
      },
      ask: { type: "array", minItems: 1, items: { oneOf: asks } },
    },
    required: ["ask"],
    additionalProperties: false,
  };
}

/** The command: one JSON request on standard input, one answer on standard output, or status 2 and a sentence. */
export function main(args: string[]): number {
  if (args.includes("--schema")) {
    process.stdout.write(`${JSON.stringify(requestSchema(), null, 2)}\n`);
    return 0;
  }
  if (args.includes("--list")) {
    process.stdout.write(`${listText()}\n`);
    return 0;
  }
  try {
    const text = readFileSync(0, "utf8");
    let request: unknown;
    try {
      request = JSON.parse(text);
    } catch {
      throw new RequestFault("The request is not JSON.");
    }
    process.stdout.write(`${JSON.stringify(compute(asFields(request, "request")))}\n`);
    return 0;
  } catch (error) {
    if (!(error instanceof RequestFault)) throw error;
    process.stderr.write(`${error.message}\n`);
    return 2;
  }
}
