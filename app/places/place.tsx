import { Outlet } from "react-router";
import { RouteTrouble } from "../parts/Trouble.tsx";
import type { Route } from "./+types/place.ts";

/** One place of the desk. */
export default function Place() {
  return <Outlet />;
}

/** A place that cannot be shown says so within the desk: the other places, the clock and the alerts stay. */
export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} />;
}
