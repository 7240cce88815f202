import { ownData } from "../../../server/accounts/ownData.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/own-data.ts";

/** Everything that is kept of whoever asks. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const data = await ownData(personIn(context).id);
    return new Response(`${JSON.stringify(data, null, 2)}\n`, {
      headers: {
        "Content-Type": "application/json; charset=utf-8",
        "Content-Disposition": 'attachment; filename="even-compass-own-data.json"',
      },
    });
  });
}
