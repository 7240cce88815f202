import { isIP } from "node:net";
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON,
} from "@simplewebauthn/server";
import { audit } from "../audit/audit.ts";
import { isDuplicate } from "../database/connection.ts";
import { Account, PasskeyRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readSettings } from "../settings.ts";
import { browserName } from "./browserName.ts";
import { issueToken, spendToken } from "./tokens.ts";

/** Keys somebody has at most, and how long one has to be shown (ms). */
const MOST = 10;
const TIME = 300_000;

/**
 * For whom keys are: the name of the site and where its pages lie. Numbers are no name (WebAuthn Level 2, section
 * 5.1.2): on a machine of one's own the site is called localhost.
 */
export function relyingParty(): { id: string; origin: string } {
  const { COMPASS_ADDRESS, COMPASS_PORT } = readSettings();
  const url = new URL(COMPASS_ADDRESS ?? `http://127.0.0.1:${COMPASS_PORT}`);
  if (isIP(url.hostname.replace(/[[\]]/g, "")) > 0) url.hostname = "localhost";
  return { id: url.hostname, origin: url.origin };
}

/** A question to a device, with the token by which its answer is known to be one to it. */
export interface Asked<Options> {
  token: string;
  options: Options;
}

const refused = (sentence: string, status = 400) =>
  new Failure("passkey", sentence, { status, kept: "Nothing was changed.", remedy: "Try it once more." });

export async function proposePasskey(id: string): Promise<Asked<PublicKeyCredentialCreationOptionsJSON>> {
  const [account, own] = [await Account.findByPk(id, { rejectOnEmpty: true }), await passkeysOf(id)];
  if (own.length >= MOST)
    throw new Failure("many", `There are ${MOST} passkeys already.`, { remedy: "End one of them first." });
  const options = await generateRegistrationOptions({
    ...{ rpName: "Even Compass", rpID: relyingParty().id, userName: account.email, userDisplayName: account.name },
    userID: new TextEncoder().encode(id),
    excludeCredentials: own.map((key) => ({ id: key.id })),
    authenticatorSelection: { residentKey: "required", userVerification: "required" },
    timeout: TIME,
  });
  return { token: await kept(options.challenge, id), options };
}

/** Of a question its challenge is kept, until it is answered or too old. */
const kept = (challenge: string, accountId: string | null) =>
  issueToken({ purpose: "passkey", accountId, data: { challenge }, lasts: TIME });

/** Keeps the public half of a key that a device has made. */
export async function addPasskey(
  id: string,
  token: string,
  response: RegistrationResponseJSON,
  browser: string,
): Promise<void> {
  const { id: rpID, origin } = relyingParty();
  await spendToken("passkey", token, async ({ accountId, data }) => {
    if (accountId !== id) throw refused("This answer is to a question of somebody else.", 403);
    const { registrationInfo } = await verifyRegistrationResponse({
      response,
      ...{ expectedChallenge: String(data?.challenge), expectedOrigin: origin, expectedRPID: rpID },
      requireUserVerification: true,
    }).catch(() => ({ registrationInfo: undefined }));
    if (!registrationInfo) throw refused("The device's answer could not be verified.");
    const { id: key, publicKey, counter } = registrationInfo.credential;
    const row = { id: key, accountId: id, publicKey: Buffer.from(publicKey), counter, name: browserName(browser) };
    await PasskeyRow.create({ ...row, createdAt: Date.now() }).catch((error: unknown) => {
      throw isDuplicate(error) ? refused("This passkey is known already.") : error;
    });
  });
  await audit({ what: "passkey made", subject: browserName(browser) });
}

/** Asks whoever it is for a key: nothing of the answer tells whether an account has one. */
export async function askPasskey(): Promise<Asked<PublicKeyCredentialRequestOptionsJSON>> {
  const options = await generateAuthenticationOptions({
    rpID: relyingParty().id,
    userVerification: "required",
    timeout: TIME,
  });
  return { token: await kept(options.challenge, null), options };
}

/**
 * Whose key answered. The device has asked for a finger, a face or a number: that is two factors at once. A key that
 * counts backwards was copied, and opens nothing.
 */
export async function provePasskey(token: string, response: AuthenticationResponseJSON): Promise<Account> {
  const { id: rpID, origin } = relyingParty();
  return spendToken("passkey", token, async ({ accountId, data }, transaction) => {
    if (accountId !== null) throw refused("This answer is to another question.", 403);
    const key = await PasskeyRow.findByPk(String(response.id).slice(0, 700), {
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const account = key && (await Account.findByPk(key.accountId, { transaction }));
    const verified =
      key &&
      (await verifyAuthenticationResponse({
        response,
        ...{ expectedChallenge: String(data?.challenge), expectedOrigin: origin, expectedRPID: rpID },
        credential: { id: key.id, publicKey: new Uint8Array(key.publicKey), counter: key.counter },
        requireUserVerification: true,
      }).catch(() => undefined));
    if (!verified?.verified || !account || account.closedAt !== null)
      throw refused("This passkey opens no account here.", 401);
    await key.update({ counter: verified.authenticationInfo.newCounter, usedAt: Date.now() }, { transaction });
    return account;
  });
}

export function passkeysOf(accountId: string): Promise<PasskeyRow[]> {
  return PasskeyRow.findAll({ where: { accountId }, order: [["createdAt", "DESC"]] });
}

export async function endPasskey(accountId: string, id: string): Promise<void> {
  if ((await PasskeyRow.destroy({ where: { accountId, id: id.slice(0, 700) } })) > 0)
    await audit({ what: "passkey ended", subject: id.slice(0, 12) });
}
