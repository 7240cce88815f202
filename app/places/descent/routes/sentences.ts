import { DropSentenceDto, SaveSentenceDto } from "#contracts/scenario";
import { dropSentence, keepSentence, sentencesOf } from "../../../../server/desk/sentences.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/sentences.ts";

/** The sentences an analyst keeps. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => Response.json(await sentencesOf(personIn(context).id)));
}

export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    if (request.method === "DELETE") {
      await dropSentence((await readBody(request, DropSentenceDto)).id, id);
      return Response.json({});
    }
    return Response.json(await keepSentence(await readBody(request, SaveSentenceDto), id));
  });
}
