import { Outlet } from "react-router";
import { requireOwner } from "../../access.server.ts";
import type { Route } from "./+types/owner.ts";

export const middleware: Route.MiddlewareFunction[] = [requireOwner];

/** Nothing to load; without a loader the guard would not run for data requests of its own. */
export function loader() {
  return null;
}

/** What is for owners alone. */
export default function Owner() {
  return <Outlet />;
}
