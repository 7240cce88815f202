import { sharedPicture } from "../../../server/delivery/shared.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/picture.ts";

/** A picture that is shared with anybody, to stand in pages of others. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { bytes } = await sharedPicture(params.token);
    return new Response(new Uint8Array(await bytes()), {
      headers: { "Content-Type": "image/png", "Cache-Control": "public, max-age=3600", "X-Robots-Tag": "noindex" },
    });
  });
}
