import { requireAnalyst } from "../../access.server.ts";
import type { Route } from "./+types/asReader.ts";

export const middleware: Route.MiddlewareFunction[] = [requireAnalyst];

export function loader() {
  return null;
}

export { Outlet as default } from "react-router";
