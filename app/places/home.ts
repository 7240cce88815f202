import { redirect } from "react-router";
import { may } from "#core/readers/roles";
import { placeOfThisSite, worksAtDesk } from "../access.server.ts";
import { personContext } from "../context.ts";
import type { Route } from "./+types/home.ts";

/** The front door: everybody goes to the place their work begins. */
export function loader({ request, context }: Route.LoaderArgs) {
  const person = context.get(personContext);
  if (!person) return redirect("/sign-in");
  // Where somebody was going before they were asked who they are.
  const then = new URL(request.url).searchParams.get("then");
  if (then !== null) return redirect(placeOfThisSite(then) === "/" ? "/outlooks" : placeOfThisSite(then));
  if (worksAtDesk(person)) return redirect("/round");
  return redirect(may(person, "review") ? "/reviews" : may(person, "moderate") ? "/questions" : "/outlooks");
}
