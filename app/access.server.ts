import { data, redirect, type RouterContextProvider } from "react-router";
import { personOf, type Person } from "../server/accounts/accounts.ts";
import { Failure } from "../server/failure.ts";
import { log } from "../server/log.ts";
import { readSettings } from "../server/settings.ts";
import { readDto } from "#contracts/read";
import { personContext, requestIdContext } from "./context.ts";

const COOKIE = "compass_session";

export function tokenOf(request: Request): string | undefined {
  const cookies = request.headers.get("Cookie") ?? "";
  return cookies
    .split(";")
    .map((part) => part.trim().split("="))
    .find(([name]) => name === COOKIE)?.[1];
}

export function sessionCookie(token: string): string {
  const secure = readSettings().COMPASS_TLS === "yes" ? "; Secure" : "";
  return `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${token ? 30 * 86_400 : 0}${secure}`;
}

interface Arguments {
  request: Request;
  context: Readonly<RouterContextProvider>;
}

/** Finds out who is asking, once a request, before any loader runs. */
export async function knowPerson({ request, context }: Arguments): Promise<void> {
  context.set(personContext, (await personOf(tokenOf(request))) ?? null);
}

/** Lets only people who are signed in pass; pages send others to the sign-in. */
export async function requirePerson({ request, context }: Arguments): Promise<void> {
  if (context.get(personContext)) return;
  const { pathname, search } = new URL(request.url);
  if (request.method !== "GET") throw data(null, { status: 401 });
  throw redirect(`/sign-in?then=${encodeURIComponent(pathname + search)}`);
}

/** Lets only analysts pass: everybody else is told 403, whatever the address. */
export async function requireAnalyst(all: Arguments): Promise<void> {
  await requirePerson(all);
  if (all.context.get(personContext)?.role !== "analyst") throw data(null, { status: 403 });
}

export function personIn(context: Readonly<RouterContextProvider>): Person {
  const person = context.get(personContext);
  if (!person) throw data(null, { status: 401 });
  return person;
}

/** Runs a loader's or an action's work; expected failures become answers with their sentence. */
export async function answer<T>(context: Readonly<RouterContextProvider>, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Response) throw error;
    if (error instanceof Failure) throw data(error.body, { status: error.status });
    if (typeof error === "object" && error !== null && "init" in error && "data" in error) throw error;
    const id = context.get(requestIdContext);
    log.error({ id, error: error instanceof Error ? error.stack : String(error) }, "unexpected");
    throw data({ failure: { code: "unexpected", sentence: "Something went wrong on our side.", requestId: id } }, { status: 500 });
  }
}

/** The same for actions whose page shows the failure itself: it is returned, not thrown. */
export async function attempt<T>(context: Readonly<RouterContextProvider>, work: () => Promise<T>) {
  try {
    return await answer(context, work);
  } catch (error) {
    if (error instanceof Response) throw error;
    return error as ReturnType<typeof data<Failure["body"]>>;
  }
}

/** The JSON of a request as a checked DTO; a Failure that marks the fields otherwise. */
export async function readBody<T extends object>(request: Request, type: new () => T): Promise<T> {
  return readJson(await request.text(), type);
}

/** The same from one field of a form. */
export function readField<T extends object>(form: FormData, name: string, type: new () => T): T {
  const text = form.get(name);
  return readJson(typeof text === "string" ? text : "", type);
}

function readJson<T extends object>(text: string, type: new () => T): T {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Failure("body", "The request is not JSON.", { status: 400 });
  }
  const read = readDto(type, raw);
  if (read.ok) return read.value;
  const [sentence] = Object.values(read.fields);
  throw new Failure("fields", sentence ?? "A field is not as it should be.", { status: 400, kept: "Nothing was changed.", fields: read.fields });
}
