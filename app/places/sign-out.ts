import { redirect } from "react-router";
import { signOut } from "../../server/accounts/sessions.ts";
import { answer } from "../access.server.ts";
import { sessionCookie, tokenOf } from "../cookies.server.ts";
import type { Route } from "./+types/sign-out.ts";

export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const token = await tokenOf(request);
    if (token) await signOut(token);
    // Pages a browser has kept are not for whoever uses it next.
    const headers = { "Set-Cookie": await sessionCookie(""), "Clear-Site-Data": '"cache"' };
    return redirect("/sign-in", { headers });
  });
}

export function loader() {
  return redirect("/sign-in");
}
