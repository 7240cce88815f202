import { createCookie } from "react-router";
import { readSettings } from "../server/settings.ts";

const usual = () => ({
  path: "/",
  httpOnly: true,
  sameSite: "lax" as const,
  secure: readSettings().COMPASS_TLS === "yes",
});
const DAY = 86_400;

/** Who is signed in: the session's token, of which the database has a digest only. */
const session = createCookie("compass_session");
/** That this device was signed in on before; it outlives the sessions. */
const device = createCookie("compass_device");

async function read(cookie: typeof session, request: Pick<Request, "headers">): Promise<string | undefined> {
  const value: unknown = await cookie.parse(request.headers.get("Cookie"));
  return typeof value === "string" && value !== "" ? value : undefined;
}

export const tokenOf = (request: Pick<Request, "headers">) => read(session, request);
export const deviceOf = (request: Request) => read(device, request);
export const sessionCookie = (token: string) => session.serialize(token, { ...usual(), maxAge: token ? 30 * DAY : 0 });
export const deviceCookie = (token: string) => device.serialize(token, { ...usual(), maxAge: 365 * DAY });
