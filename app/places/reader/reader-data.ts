import { requirePerson } from "../../access.server.ts";
import type { Route } from "./+types/reader-data.ts";

export const middleware: Route.MiddlewareFunction[] = [requirePerson];

export function loader() {
  return null;
}
