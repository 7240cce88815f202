import { findToken } from "../../../server/accounts/tokens.ts";
import { actingAs } from "../../../server/audit/actor.ts";
import { Account, type TokenPurpose } from "../../../server/database/models.ts";
import { Failure } from "../../../server/failure.ts";
import { countRequest } from "../../../server/http/rates.ts";
import { told } from "../../../server/told.ts";

/**
 * Answers a program that says who it is by a token of one scope (`Authorization: Bearer ...`), never by a cookie.
 * What fails is told as problem details (RFC 9457).
 */
export function answerProgram(
  request: Request,
  scope: TokenPurpose,
  work: (account: Account) => Promise<Response>,
): Promise<Response> {
  return answerMessage(async () => {
    const account = await accountOf(request, scope);
    await countRequest(account.id, "");
    return actingAs(account, () => work(account));
  });
}

/** Answers a program that proves by what it sends that it may. What fails is told as problem details (RFC 9457). */
export async function answerMessage(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    return problem(told(error, "a program could not be answered"));
  }
}

async function accountOf(request: Request, scope: TokenPurpose): Promise<Account> {
  const [, token = ""] = /^Bearer ([A-Za-z0-9_-]+)$/i.exec(request.headers.get("Authorization") ?? "") ?? [];
  const row = await findToken(scope, token);
  const account = row?.accountId ? await Account.findByPk(row.accountId) : null;
  if (!account || account.closedAt !== null)
    throw new Failure("token", `A token of the scope "${scope}" is needed.`, {
      status: 401,
      remedy: "Send it as Authorization: Bearer TOKEN; it is made under Settings.",
    });
  return account;
}

function problem({ body, status }: Failure): Response {
  const { code, sentence, kept, remedy, fields, requestId } = body.failure;
  const instance = requestId && `urn:uuid:${requestId}`;
  const details = { type: `about:blank#${code}`, title: sentence, status, detail: remedy, kept, fields, instance };
  return Response.json(details, {
    status,
    headers: {
      "Content-Type": "application/problem+json",
      ...(status === 401 ? { "WWW-Authenticate": "Bearer" } : {}),
      ...(status === 429 || status === 503 ? { "Retry-After": "5" } : {}),
    },
  });
}
