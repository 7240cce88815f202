import { createHash, createSign, generateKeyPairSync, randomBytes } from "node:crypto";
import { describe, expect, it } from "vitest";
import { PasskeyRow } from "../database/models.ts";
import { aReader, failureOf, withTables } from "../testing.ts";
import { closeAccount } from "./accounts.ts";
import {
  addPasskey,
  askPasskey,
  endPasskey,
  passkeysOf,
  proposePasskey,
  provePasskey,
  relyingParty,
} from "./passkeys.ts";

withTables();

const readerId = async () => (await aReader()).id;
const url64 = (bytes: Buffer | string) => Buffer.from(bytes).toString("base64url");
const sha256 = (bytes: Buffer | string) => createHash("sha256").update(bytes).digest();

/** Maps, byte strings and small numbers in CBOR (RFC 8949), as far as a key needs them. */
function cbor(value: number | string | Buffer | Map<number | string, unknown>): Buffer {
  const head = (major: number, n: number) =>
    n < 24
      ? Buffer.from([(major << 5) | n])
      : n < 256
        ? Buffer.from([(major << 5) | 24, n])
        : Buffer.from([(major << 5) | 25, n >> 8, n & 255]);
  if (typeof value === "number") return value >= 0 ? head(0, value) : head(1, -1 - value);
  if (typeof value === "string") return Buffer.concat([head(3, value.length), Buffer.from(value)]);
  if (Buffer.isBuffer(value)) return Buffer.concat([head(2, value.length), value]);
  return Buffer.concat([head(5, value.size), ...[...value].flatMap(([key, one]) => [cbor(key), cbor(one as never)])]);
}

/** A device that keeps one key: what WebAuthn Level 2, sections 6.1 and 6.5, say it answers. */
function aDevice({ origin = relyingParty().origin, verifies = true } = {}) {
  const { publicKey, privateKey } = generateKeyPairSync("ec", { namedCurve: "P-256" });
  const { x, y } = publicKey.export({ format: "jwk" });
  const id = randomBytes(32);
  let counter = 0;
  // COSE key (RFC 9053, section 7.1.1): EC2, ES256, P-256.
  const cose = cbor(
    new Map<number, unknown>([
      ...([
        [1, 2],
        [3, -7],
        [-1, 1],
      ] as const),
      [-2, Buffer.from(x ?? "", "base64url")],
      [-3, Buffer.from(y ?? "", "base64url")],
    ]),
  );
  const data = (flags: number) => {
    const count = Buffer.alloc(4);
    count.writeUInt32BE(++counter);
    return Buffer.concat([sha256(relyingParty().id), Buffer.from([flags]), count]);
  };
  const client = (type: string, challenge: string) => Buffer.from(JSON.stringify({ type, challenge, origin }));
  const seen = verifies ? 0x05 : 0x01;
  const answer = (response: object) =>
    ({ id: url64(id), rawId: url64(id), type: "public-key", clientExtensionResults: {}, response }) as never;
  return {
    id: url64(id),
    turnBack: () => (counter = 0),
    make: (challenge: string) => {
      const authData = Buffer.concat([data(seen | 0x40), Buffer.alloc(16), Buffer.from([0, id.length]), id, cose]);
      const attestation = cbor(
        new Map<string, unknown>([
          ["fmt", "none"],
          ["attStmt", new Map()],
          ["authData", authData],
        ]),
      );
      return answer({
        clientDataJSON: url64(client("webauthn.create", challenge)),
        attestationObject: url64(attestation),
      });
    },
    show: (challenge: string) => {
      const [authData, json] = [data(seen), client("webauthn.get", challenge)];
      const signature = createSign("SHA256")
        .update(Buffer.concat([authData, sha256(json)]))
        .sign(privateKey);
      return answer({
        ...{ clientDataJSON: url64(json), authenticatorData: url64(authData), signature: url64(signature) },
      });
    },
  };
}

async function withKey() {
  const [id, device] = [await readerId(), aDevice()];
  const { token, options } = await proposePasskey(id);
  await addPasskey(id, token, device.make(options.challenge), "Mozilla/5.0 Firefox/130.0");
  return { id, device };
}
const show = async (device: ReturnType<typeof aDevice>) => {
  const { token, options } = await askPasskey();
  return provePasskey(token, device.show(options.challenge));
};

describe("a passkey", () => {
  it("is made by a device and signs in whose it is; what the desk keeps of it opens nothing", async () => {
    const { id, device } = await withKey();
    expect((await show(device)).id).toBe(id);
    expect((await show(device)).id).toBe(id);
    const [key] = await passkeysOf(id);
    expect(key).toMatchObject({ id: device.id, counter: 3, usedAt: expect.any(Number) });
  });

  it("answers one question once: neither an answer of before nor one to somebody else's question counts", async () => {
    const { device } = await withKey();
    const [first, second] = [await askPasskey(), await askPasskey()];
    const answer = device.show(first.options.challenge);
    expect(await failureOf(provePasskey(second.token, answer))).toMatchObject({ code: "passkey", status: 401 });
    await provePasskey(first.token, answer);
    expect(await failureOf(provePasskey(first.token, answer))).toMatchObject({ code: "token" });
    const other = await readerId();
    const own = await proposePasskey(await readerId());
    const made = aDevice().make(own.options.challenge);
    expect(await failureOf(addPasskey(other, own.token, made, ""))).toMatchObject({ status: 403 });
    // A question for a new key is none to sign in by.
    expect(await failureOf(provePasskey(own.token, device.show(own.options.challenge)))).toMatchObject({ status: 403 });
  });

  it("of another site, without a finger or a number, or that was copied opens nothing", async () => {
    const id = await readerId();
    const refuse = async (device: ReturnType<typeof aDevice>) => {
      const { token, options } = await proposePasskey(id);
      return failureOf(addPasskey(id, token, device.make(options.challenge), ""));
    };
    expect(await refuse(aDevice({ origin: "https://even-compass.example" }))).toMatchObject({ code: "passkey" });
    expect(await refuse(aDevice({ verifies: false }))).toMatchObject({ code: "passkey" });
    expect(await PasskeyRow.count({ where: { accountId: id } })).toBe(0);
    // WebAuthn Level 2, section 6.1.1: a count that does not grow is the sign of a copy.
    const { device } = await withKey();
    await show(device);
    device.turnBack();
    expect(await failureOf(show(device))).toMatchObject({ status: 401 });
    expect(await failureOf(show(aDevice()))).toMatchObject({ status: 401 });
  });

  it("opens nothing once it is ended, by its own account alone, or its account is closed", async () => {
    const { id, device } = await withKey();
    await endPasskey(await readerId(), device.id);
    expect((await show(device)).id).toBe(id);
    await endPasskey(id, device.id);
    expect(await failureOf(show(device))).toMatchObject({ status: 401 });
    const second = await withKey();
    await closeAccount(second.id);
    expect(await failureOf(show(second.device))).toMatchObject({ status: 401 });
  });
});
