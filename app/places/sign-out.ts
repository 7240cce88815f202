import { redirect } from "react-router";
import { signOut } from "../../server/accounts/accounts.ts";
import { sessionCookie, tokenOf } from "../access.server.ts";
import type { Route } from "./+types/sign-out.ts";

export async function action({ request }: Route.ActionArgs) {
  const token = tokenOf(request);
  if (token) await signOut(token);
  return redirect("/sign-in", { headers: { "Set-Cookie": sessionCookie("") } });
}

export function loader() {
  return redirect("/sign-in");
}
