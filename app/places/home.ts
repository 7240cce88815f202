import { redirect } from "react-router";
import { worksAtDesk } from "../access.server.ts";
import { personContext } from "../context.ts";
import type { Route } from "./+types/home.ts";

/** The front door: everybody goes to the place their work begins. */
export function loader({ context }: Route.LoaderArgs) {
  const person = context.get(personContext);
  if (!person) return redirect("/sign-in");
  return redirect(worksAtDesk(person) ? "/round" : "/outlooks");
}
