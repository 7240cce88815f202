import { FeedDto } from "#contracts/feed";
import { readClock } from "../../../../server/clock.ts";
import { advance, setSpeed } from "../../../../server/intake/feed.ts";
import { answer, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/feed.ts";

export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const wish = await readBody(request, FeedDto);
    if (wish.speed !== undefined) await setSpeed(wish.speed);
    if (wish.advance !== undefined) await advance(wish.advance);
    return Response.json(await readClock());
  });
}
