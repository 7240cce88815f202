import type { ReadableStream } from "node:stream/web";
import { takeUpload } from "../../../server/bars/uploads.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/uploads.ts";

/** Takes a file in: its bytes as the body, its name in the address. Answers with the upload's id. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const body = request.body as ReadableStream<Uint8Array> | null;
    return Response.json({ upload: await takeUpload(body, name, personIn(context).id) });
  });
}
