import { sightOf } from "../../../server/accounts/plans.ts";
import { asPdf } from "../../../server/readers/asPdf.ts";
import { answerInTurn, personIn } from "../../access.server.ts";
import type { Route } from "./+types/pdf.ts";

/** An outlook as a PDF, as far as the reader's plan shows it. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const { name, bytes } = await asPdf(params.number, await sightOf(personIn(context)));
    return new Response(new Uint8Array(bytes), {
      headers: {
        "Content-Type": "application/pdf",
        "Content-Disposition": `inline; filename="${name}"`,
        "Cache-Control": "private, no-cache",
      },
    });
  });
}
