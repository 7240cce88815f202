import { SaveStudiesDto } from "#contracts/studies";
import { rungSetsOf } from "../../../../server/desk/rungSets.ts";
import { saveStudies, studiesOf } from "../../../../server/desk/studies.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/studies.ts";

/** The studies on an analyst's charts of a set of rungs, and the looks that are kept. */
export function loader({ request, context }: Route.LoaderArgs) {
  const set = new URL(request.url).searchParams.get("set");
  return answer(context, async () => {
    const { id } = personIn(context);
    return Response.json(await studiesOf(id, set ?? (await rungSetsOf(id)).chosen.id));
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { set, studies } = await readBody(request, SaveStudiesDto);
    return Response.json(await saveStudies(personIn(context).id, set, studies));
  });
}
