import { Outlet } from "react-router";
import { personIn, requirePerson } from "../../access.server.ts";
import { TopBar } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/reader.ts";

export const middleware: Route.MiddlewareFunction[] = [requirePerson];

export function loader({ context }: Route.LoaderArgs) {
  const { name, role } = personIn(context);
  return { name, role };
}

/** The frame of what subscribers see; an analyst who looks finds the way back to the desk. */
export default function Reader({ loaderData: { name, role } }: Route.ComponentProps) {
  const desk = role === "analyst" ? [{ to: "/editions", name: "Desk" }] : [];
  return (
    <>
      <TopBar places={[{ to: "/outlooks", name: "Outlooks" }, ...desk]} person={name} />
      <Outlet />
    </>
  );
}
