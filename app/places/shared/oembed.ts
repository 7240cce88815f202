import { siteAddress } from "../../../server/delivery/links.ts";
import { SHARED_SIZE, sharedPicture } from "../../../server/delivery/shared.ts";
import { Failure, notFound } from "../../../server/failure.ts";
import { mastheadOf } from "../../../server/publishing/deskSettings.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/oembed.ts";

/** What a shared picture is, for programs that show links as what they lead to (oEmbed 1.0, section 2.3.4.1). */
export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const asked = new URL(request.url).searchParams;
    if ((asked.get("format") ?? "json") !== "json")
      throw new Failure("format", "This is told as JSON alone.", { status: 501 });
    const url = asked.get("url") ?? "";
    const [, token] = /\/shared\/([A-Za-z0-9_-]{43})$/.exec(url) ?? [];
    if (token === undefined || url !== `${siteAddress()}/shared/${token}`) throw notFound("picture");
    const { title, market, edition, root } = await sharedPicture(token);
    const fits = (name: string, size: number) => Number(asked.get(name) ?? size) / size;
    const scale = Math.min(1, fits("maxwidth", SHARED_SIZE.width), fits("maxheight", SHARED_SIZE.height));
    if (!(scale > 0)) throw new Failure("size", "Sizes are numbers above 0.", { status: 400 });
    return Response.json({
      ...{ version: "1.0", type: "photo", url: `${url}/picture.png`, cache_age: 3600 },
      ...{ width: Math.floor(SHARED_SIZE.width * scale), height: Math.floor(SHARED_SIZE.height * scale) },
      title: `${market}: ${title} (edition ${edition}, root ${root})`,
      ...{ provider_name: (await mastheadOf()).name, provider_url: siteAddress() },
    });
  });
}
