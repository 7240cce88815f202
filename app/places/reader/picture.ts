import { sectionPicture } from "../../../server/publishing/editions.ts";
import { answer } from "../../access.server.ts";
import { notFound } from "../../../server/failure.ts";
import type { Route } from "./+types/picture.ts";

/** A frozen picture, "0.png" or "0.svg"; it never changes. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const match = /^(\d{1,2})\.(png|svg)$/.exec(params.section);
    const number = /^\d{1,9}$/.test(params.number) ? Number(params.number) : 0;
    if (!match) throw notFound("picture");
    const { svg, png } = await sectionPicture(number, Number(match[1]));
    const headers = { "Cache-Control": "private, max-age=31536000, immutable" };
    if (match[2] === "svg")
      return new Response(svg, {
        headers: {
          ...headers,
          "Content-Type": "image/svg+xml",
          "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'",
        },
      });
    return new Response(new Uint8Array(png), { headers: { ...headers, "Content-Type": "image/png" } });
  });
}
