import { sightOf } from "../../../server/accounts/plans.ts";
import { notFound } from "../../../server/failure.ts";
import { LAYOUT_NAMES } from "#core/edition/layouts";
import { pointingAt } from "../../../server/readers/pointing.ts";
import { seePicture } from "../../../server/readers/seenPictures.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/picture.ts";

/**
 * A frozen picture, "0.png" or "0.svg", `?layout=` wide, phone or paper, with as much in it as the reader's plan shows.
 * Asked for by its digest (`?v=`) it never changes. "0.json" says what its places stand for.
 */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const match = /^(\d{1,2})\.(png|svg|json)$/.exec(params.section);
    const asked = new URL(request.url).searchParams;
    const layout = LAYOUT_NAMES.find((name) => name === (asked.get("layout") ?? "wide"));
    if (!match || !layout) throw notFound("picture");
    const sight = await sightOf(personIn(context));
    const picture = { number: params.number, section: Number(match[1]), layout };
    if (match[2] === "json")
      return Response.json(await pointingAt(picture, sight), { headers: { "Cache-Control": "private, no-cache" } });
    const form = match[2] === "svg" ? "svg" : "png";
    const { bytes, sha256 } = await seePicture({ ...picture, form }, sight);
    const named = asked.get("v");
    const isNamed = named !== null && named.length >= 16 && sha256.startsWith(named);
    const headers = {
      ETag: `"${sha256}"`,
      "Cache-Control": isNamed ? "private, max-age=31536000, immutable" : "private, no-cache",
      ...(form === "svg"
        ? {
            "Content-Type": "image/svg+xml",
            "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'",
          }
        : { "Content-Type": "image/png" }),
    };
    if (sha256 !== "" && request.headers.get("If-None-Match") === headers.ETag)
      return new Response(null, { status: 304, headers });
    return new Response(new Uint8Array(bytes), { headers });
  });
}
