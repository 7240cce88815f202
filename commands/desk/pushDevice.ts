import { createDecipheriv, createECDH, createPublicKey, hkdfSync, randomBytes, verify } from "node:crypto";

/** What a stand-in for a browser is known by. */
export interface DeviceKeys {
  privateKey: Buffer;
  auth: Buffer;
}

export interface PushDevice {
  /** As the Push API's `PushSubscription.toJSON()` has it. */
  subscription(endpoint: string): { endpoint: string; keys: { p256dh: string; auth: string } };
  /** The text of a message. Throws an Error of one that was not encrypted for this device. */
  open(body: Buffer): string;
}

const CURVE = "prime256v1";

/**
 * A stand-in for a browser that is notified: it reads messages as RFC 8291 says (aes128gcm of RFC 8188, one record),
 * without the library they are written by.
 */
export function pushDevice(keys?: DeviceKeys): PushDevice {
  const pair = createECDH(CURVE);
  if (keys) pair.setPrivateKey(keys.privateKey);
  else pair.generateKeys();
  const auth = keys?.auth ?? randomBytes(16);
  const own = pair.getPublicKey();
  return {
    subscription: (endpoint) => ({
      endpoint,
      keys: { p256dh: own.toString("base64url"), auth: auth.toString("base64url") },
    }),
    open: (body) => opened(body, (key) => pair.computeSecret(key), own, auth),
  };
}

/** Header of RFC 8188, 2.1: salt (16), record size (4), length of the key's name (1), the sender's key as that name. */
function opened(body: Buffer, secretWith: (key: Buffer) => Buffer, own: Buffer, auth: Buffer): string {
  const salt = body.subarray(0, 16);
  const length = body.readUInt8(20);
  const sender = body.subarray(21, 21 + length);
  const record = body.subarray(21 + length);
  // RFC 8291, 3.4: what both hold, then a key and a nonce of this message alone.
  const info = Buffer.concat([Buffer.from("WebPush: info\0"), own, sender]);
  const shared = Buffer.from(hkdfSync("sha256", secretWith(sender), auth, info, 32));
  const key = Buffer.from(hkdfSync("sha256", shared, salt, "Content-Encoding: aes128gcm\0", 16));
  const nonce = Buffer.from(hkdfSync("sha256", shared, salt, "Content-Encoding: nonce\0", 12));
  const decipher = createDecipheriv("aes-128-gcm", key, nonce);
  decipher.setAuthTag(record.subarray(-16));
  const plain = Buffer.concat([decipher.update(record.subarray(0, -16)), decipher.final()]);
  // The last record ends with a 2 and any number of zeros.
  const end = plain.findLastIndex((byte) => byte !== 0);
  if (plain[end] !== 2) throw new Error("The record has no end.");
  return plain.subarray(0, end).toString("utf8");
}

interface Claims {
  aud: string;
  exp: number;
  sub: string;
}

/**
 * What somebody who asks a push service to deliver says of themselves (RFC 8292): for which service and until when,
 * signed with the key they name. Throws an Error where that does not hold.
 */
export function vapidClaims(authorization: string, origin: string, now = Date.now()): Claims & { key: string } {
  const [, token, key] = /^vapid t=([\w.-]+), ?k=([\w-]+)$/.exec(authorization) ?? [];
  if (!token || !key) throw new Error("Nobody says who asks.");
  const [head, claims, signature] = token.split(".");
  const point = Buffer.from(key, "base64url");
  const jwk = { kty: "EC", crv: "P-256", x: coordinate(point, 1), y: coordinate(point, 33) };
  const signer = { key: createPublicKey({ key: jwk, format: "jwk" }), dsaEncoding: "ieee-p1363" as const };
  const isSigned = verify("sha256", Buffer.from(`${head}.${claims}`), signer, Buffer.from(signature, "base64url"));
  const said = JSON.parse(Buffer.from(claims, "base64url").toString("utf8")) as Claims;
  const left = said.exp - now / 1000;
  if (!isSigned || said.aud !== origin || left < 0 || left > 86_400)
    throw new Error("It is not signed for here and now.");
  return { ...said, key };
}

const coordinate = (point: Buffer, from: number) => point.subarray(from, from + 32).toString("base64url");
