import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { getMetadataStorage, validateSync, type ValidationError } from "class-validator";
import { plainFault } from "#contracts/plain";

export type Read<T> = { ok: true; value: T } | { ok: false; fields: Record<string, string> };

/** An untrusted value as a checked DTO, or the sentence for each field at fault. */
export function readDto<T extends object>(type: new () => T, value: unknown): Read<T> {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    return { ok: false, fields: { "": "An object is needed." } };
  const fault = plainFault(value);
  if (fault) return { ok: false, fields: { "": fault } };
  const tooMany = longLists(type, value as Record<string, unknown>);
  if (Object.keys(tooMany).length > 0) return { ok: false, fields: tooMany };
  const dto = plainToInstance(type, withoutNulls(type, value as Record<string, unknown>), {
    exposeDefaultValues: true,
  });
  const errors = validateSync(dto, { whitelist: true, forbidNonWhitelisted: true });
  return errors.length === 0 ? { ok: true, value: dto } : { ok: false, fields: fieldsOf(errors) };
}

/**
 * The sentence for each list that is longer than its class lets it be: asked before its parts are made objects and
 * looked at one by one.
 */
function longLists(type: new () => object, value: Record<string, unknown>): Record<string, string> {
  const out: Record<string, string> = {};
  for (const { name, propertyName, constraints, message } of getMetadataStorage().getTargetValidationMetadatas(
    type,
    "",
    false,
    false,
  )) {
    const list = value[propertyName];
    if (name !== "arrayMaxSize" || !Array.isArray(list) || list.length <= (constraints[0] as number)) continue;
    out[propertyName] = sentence(
      typeof message === "string" ? message : `${propertyName} has at most ${constraints[0] as number} entries`,
    );
  }
  return out;
}

/**
 * A value without the fields that may be left out and are null: both say the same, and what reads them knows one way
 * only.
 */
function withoutNulls(type: new () => object, value: Record<string, unknown>): Record<string, unknown> {
  const optional = new Set(
    getMetadataStorage()
      .getTargetValidationMetadatas(type, "", false, false)
      .flatMap(({ type: kind, propertyName }) => (kind === "conditionalValidation" ? [propertyName] : [])),
  );
  return Object.fromEntries(Object.entries(value).filter(([name, part]) => part !== null || !optional.has(name)));
}

function fieldsOf(errors: readonly ValidationError[], path = ""): Record<string, string> {
  const out: Record<string, string> = {};
  for (const { property, constraints, children } of errors) {
    const name = path ? `${path}.${property}` : property;
    const [first] = Object.values(constraints ?? {});
    if (first) out[name] = sentence(first);
    Object.assign(out, fieldsOf(children ?? [], name));
  }
  return out;
}

function sentence(text: string): string {
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}
