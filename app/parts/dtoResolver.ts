import { toNestErrors } from "@hookform/resolvers";
import type { FieldErrors, FieldValues, Resolver } from "react-hook-form";
import { readDto } from "#contracts/read";

/**
 * Judges a form as the server judges what it sends: by the same class, with the same sentences. `said` is what the form
 * would send; `fieldOf` names the field that a path of it is typed in, where the two differ.
 */
export function dtoResolver<Values extends FieldValues>(
  type: new () => object,
  said: (values: Values) => unknown,
  fieldOf: (path: string) => string = (path) => path,
): Resolver<Values> {
  return (values, _context, options) => {
    const read = readDto(type, said(values));
    if (read.ok) return { values, errors: {} };
    const errors = Object.fromEntries(
      Object.entries(read.fields).map(([path, message]) => [fieldOf(path), { type: "border", message }]),
    );
    return { values: {}, errors: toNestErrors(errors as FieldErrors<Values>, options) };
  };
}
