import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { validateSync, type ValidationError } from "class-validator";

export type Read<T> = { ok: true; value: T } | { ok: false; fields: Record<string, string> };

/** An untrusted value as a checked DTO, or the sentence for each field at fault. */
export function readDto<T extends object>(type: new () => T, value: unknown): Read<T> {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return { ok: false, fields: { "": "An object is needed." } };
  const dto = plainToInstance(type, value, { exposeDefaultValues: true });
  const errors = validateSync(dto, { whitelist: true, forbidNonWhitelisted: true });
  return errors.length === 0 ? { ok: true, value: dto } : { ok: false, fields: fieldsOf(errors) };
}

function fieldsOf(errors: readonly ValidationError[], path = ""): Record<string, string> {
  const out: Record<string, string> = {};
  for (const { property, constraints, children } of errors) {
    const name = path ? `${path}.${property}` : property;
    const [first] = Object.values(constraints ?? {});
    if (first) out[name] = `${first[0].toUpperCase()}${first.slice(1)}.`;
    Object.assign(out, fieldsOf(children ?? [], name));
  }
  return out;
}
