import { takePayment } from "../../../server/accounts/memberships.ts";
import { answerMessage } from "./api.server.ts";
import type { Route } from "./+types/payments.ts";

/** Takes what the payment house says of memberships; it signs what it says. */
export function action({ request }: Route.ActionArgs) {
  return answerMessage(async () => {
    const outcome = await takePayment(request.headers, await request.text());
    return Response.json({ outcome });
  });
}
