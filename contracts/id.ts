import { Matches, type ValidationOptions } from "class-validator";

/** An id as `crypto.randomUUID` writes it (RFC 9562): in small letters, so that one thing has one name. */
const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

export const IsId = (options?: ValidationOptions) =>
  Matches(ID, { message: "an id is 32 small hexadecimal digits in five groups", ...options });
