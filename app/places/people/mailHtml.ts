import { mailTaken } from "../../../server/delivery/mailbox.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/mailHtml.ts";

/** The HTML of a mail that was taken, shut in: it runs nothing and fetches nothing. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { html } = await mailTaken(params.mail);
    return new Response(html, {
      headers: {
        "Content-Type": "text/html; charset=utf-8",
        "Content-Security-Policy":
          "sandbox; default-src 'none'; img-src data:; style-src 'unsafe-inline'; frame-ancestors 'self'",
        "X-Frame-Options": "SAMEORIGIN",
        "Cache-Control": "no-store",
      },
    });
  });
}
