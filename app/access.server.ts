import { data, redirect, type RouterContextProvider } from "react-router";
import { personOf, type Caller, type Person } from "../server/accounts/sessions.ts";
import { actingAs } from "../server/audit/actor.ts";
import { countRequest, inTurn } from "../server/http/rates.ts";
import { Failure } from "../server/failure.ts";
import { told } from "../server/told.ts";
import { readDto } from "#contracts/read";
import { may, type Right } from "#core/readers/roles";
import { tokenOf } from "./cookies.server.ts";
import { callerContext, personContext } from "./context.ts";

interface Arguments {
  request: Request;
  context: Readonly<RouterContextProvider>;
}

/**
 * Finds out who is asking, once a request, before any loader runs; who asks for too much is told to wait. What is
 * written down of the request is written down in that person's name.
 */
export async function knowPerson<T>({ request, context }: Arguments, next: () => Promise<T>): Promise<T> {
  const person = await answer(context, async () => {
    const found = await personOf(await tokenOf(request));
    await countRequest(found?.id, context.get(callerContext));
    return found;
  });
  context.set(personContext, person ? callerOf(person, request) : null);
  return person ? actingAs(person, next) : next();
}

/** Where something is changed, what was read before says nothing of what the same answer shows after it. */
const callerOf = ({ id, name, role, ...known }: Caller, { method }: Request): Person & Partial<Caller> => ({
  ...{ id, name, role },
  ...(method === "GET" ? known : {}),
});

/**
 * An address to go on to, if it is one of this site: read as browsers read it, who drop line breaks and tabs and take
 * backslashes for slashes. The front door otherwise.
 */
export function placeOfThisSite(then: string | null): string {
  const site = "http://this.site";
  try {
    const { origin, pathname, search, hash } = new URL(then ?? "/", site);
    return origin === site && then?.startsWith("/") && !pathname.startsWith("//") ? pathname + search + hash : "/";
  } catch {
    return "/";
  }
}

/** Lets only people who are signed in pass; pages send others to the sign-in. */
export async function requirePerson({ request, context }: Arguments): Promise<void> {
  if (context.get(personContext)) return;
  const { pathname, search } = new URL(request.url);
  if (request.method !== "GET") throw data(null, { status: 401 });
  throw redirect(`/sign-in?then=${encodeURIComponent(pathname + search)}`);
}

/** Lets only those pass who may do something: everybody else is told 403, whatever the address. */
const requireRight =
  (right: Right) =>
  async (all: Arguments): Promise<void> => {
    await requirePerson(all);
    if (!may(personIn(all.context), right)) throw data(null, { status: 403 });
  };

export const requireAnalyst = requireRight("desk");
export const requireReviewer = requireRight("review");
export const requireModerator = requireRight("moderate");
export const requireOwner = requireRight("own");

/** Whether somebody works at the desk rather than reads what leaves it. */
export const worksAtDesk = (person: Pick<Person, "role">): boolean => may(person, "desk");

export function personIn(context: Readonly<RouterContextProvider>): Person & Partial<Caller> {
  const person = context.get(personContext);
  if (!person) throw data(null, { status: 401 });
  return person;
}

/** Runs a loader's or an action's work; expected failures become answers with their sentence. */
export async function answer<T>(_context: Readonly<RouterContextProvider>, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Response) throw error;
    if (typeof error === "object" && error !== null && "init" in error && "data" in error) throw error;
    const failure = told(error, "a request could not be answered");
    throw data(failure.body, { status: failure.status, headers: retryAfter(failure) });
  }
}

/** When it makes sense to ask again (RFC 9110, 10.2.3): in seconds, where it is known. */
function retryAfter({ status, details: { until } }: Failure): Record<string, string> {
  if (status !== 429 && status !== 503) return {};
  const seconds = until === undefined ? 5 : Math.max(1, Math.ceil((until - Date.now()) / 1000));
  return { "Retry-After": String(seconds) };
}

/** The same for what is expensive: it is worked out in turn, and not at all when nobody waits for it any more. */
export function answerInTurn<T>({ request, context }: Arguments, work: () => Promise<T>): Promise<T> {
  return answer(context, () => inTurn(personIn(context).id, request.signal, work));
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
  if (!/^application\/json\b/i.test(request.headers.get("Content-Type") ?? ""))
    throw new Failure("body", "This is sent as JSON.", { status: 415, kept: "Nothing was changed." });
  return readJson(await textOf(request), type);
}

async function textOf(request: Request): Promise<string> {
  try {
    return await request.text();
  } catch {
    throw new Failure("body", "The request did not come in whole.", { status: 400, kept: "Nothing was changed." });
  }
}

/** The fields of a form. */
export async function readForm(request: Request): Promise<FormData> {
  try {
    return await request.formData();
  } catch {
    throw new Failure("body", "The request is no form, or did not come in whole.", {
      status: 400,
      kept: "Nothing was changed.",
      remedy: "Send it from the page once more.",
    });
  }
}

/** A field of a form as text: empty where it is missing, or a file. */
export function textField(form: FormData, name: string): string {
  const value = form.get(name);
  return typeof value === "string" ? value : "";
}

/** The same as a checked DTO. */
export function readField<T extends object>(form: FormData, name: string, type: new () => T): T {
  return readJson(textField(form, name), type);
}

function readJson<T extends object>(text: string, type: new () => T): T {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Failure("body", "The request is not JSON.", { status: 400, kept: "Nothing was changed." });
  }
  const read = readDto(type, raw);
  if (read.ok) return read.value;
  const [sentence] = Object.values(read.fields);
  throw new Failure("fields", sentence ?? "A field is not as it should be.", {
    status: 400,
    kept: "Nothing was changed.",
    fields: read.fields,
  });
}
