import { requireAnalyst } from "../access.server.ts";
import type { Route } from "./+types/desk-data.ts";

export const middleware: Route.MiddlewareFunction[] = [requireAnalyst];

/** Nothing to load; a layout without a loader would not have its guard run for its own data requests. */
export function loader() {
  return null;
}
