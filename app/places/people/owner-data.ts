import { requireOwner } from "../../access.server.ts";
import type { Route } from "./+types/owner-data.ts";

export const middleware: Route.MiddlewareFunction[] = [requireOwner];

export function loader() {
  return null;
}

export { Outlet as default } from "react-router";
