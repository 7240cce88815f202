import { requireModerator } from "../../access.server.ts";
import type { Route } from "./+types/moderators.ts";

export const middleware: Route.MiddlewareFunction[] = [requireModerator];

/** Nothing to load; a layout without a loader would not have its guard run for its own data requests. */
export function loader() {
  return null;
}

export { Outlet as default } from "react-router";
