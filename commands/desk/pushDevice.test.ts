import { randomBytes } from "node:crypto";
import { describe, expect, it } from "vitest";
import webpush from "web-push";
import { pushDevice, vapidClaims } from "./pushDevice.ts";

const bytes = (text: string) => Buffer.from(text, "base64url");

// RFC 8291, appendix A (from memory; that it decrypts and authenticates shows that it is remembered rightly).
const EXAMPLE = {
  privateKey: bytes("q1dXpw3UpT5VOmu_cf_v6ih07Aems3njxI-JWgLcM94"),
  publicKey: "BCVxsr7N_eNgVRqvHtD0zTZsEc6-VV-JvLexhqUzORcxaOzi6-AYWXvTBHm4bjyPjs7Vd8pZGH6SRpkNtoIAiw4",
  auth: bytes("BTBZMqHH6r4Tts7J_aSIgg"),
  body: bytes(
    "DGv6ra1nlYgDCS1FRnbzlwAAEABBBP4z9KsN6nGRTbVYI_c7VJSPQTBtkgcy27mlmlMoZIIgDll6e3vCYLocInmYWAmS6TlzAC8wEqKK6PBru3jl" +
      "7A_yl95bQpu6cVPTpK4Mqgkf1CXztLVBSt2Ks3oZwbuwXPXLWyouBWLVWGNWQexSgSxsj_Qulcy4a-fN",
  ),
};

const SERVICE = "https://push.example";
const keys = webpush.generateVAPIDKeys();
const request = (device = pushDevice()) =>
  webpush.generateRequestDetails(device.subscription(`${SERVICE}/one`), "Tin: entry at 102.5", {
    vapidDetails: { subject: "mailto:desk@meridian.example", ...keys },
  });
const authorized = () => String(request().headers.Authorization);

describe("a stand-in of a browser", () => {
  it("reads the published example", () => {
    const device = pushDevice(EXAMPLE);
    expect(device.subscription(SERVICE).keys.p256dh).toBe(EXAMPLE.publicKey);
    expect(device.open(EXAMPLE.body)).toBe("When I grow up, I want to be a watermelon");
  });

  it("reads what the library of the trade writes for it, and nobody else does", () => {
    const device = pushDevice();
    const { body } = request(device);
    expect(device.open(body as Buffer)).toBe("Tin: entry at 102.5");
    expect(() => pushDevice().open(body as Buffer)).toThrow();
    const bent = Buffer.from(body as Buffer);
    bent[bent.length - 20] ^= 1;
    expect(() => device.open(bent)).toThrow();
    expect(() => device.open(randomBytes(120))).toThrow();
  });
});

// RFC 8292, 2 to 3.
describe("who asks a push service", () => {
  it("is known by their key, for that service, for a day at most", () => {
    expect(vapidClaims(authorized(), SERVICE)).toMatchObject({
      ...{ aud: SERVICE, sub: "mailto:desk@meridian.example", key: keys.publicKey },
    });
    expect(() => vapidClaims(authorized(), "https://other.example")).toThrow("not signed for here");
    expect(() => vapidClaims(authorized(), SERVICE, Date.now() + 86_400_000)).toThrow("not signed for here");
    expect(() => vapidClaims("", SERVICE)).toThrow("Nobody says");
  });

  it("is not somebody who names another key, or changed what was signed", () => {
    const other = webpush.generateVAPIDKeys().publicKey;
    expect(() => vapidClaims(authorized().replace(keys.publicKey, other), SERVICE)).toThrow("not signed for here");
    const [, token = ""] = /t=([\w.-]+)/.exec(authorized()) ?? [];
    const [head, , signature] = token.split(".");
    const claims = Buffer.from(JSON.stringify({ aud: SERVICE, exp: Date.now() / 1000 + 60, sub: "x" }));
    const forged = `vapid t=${head}.${claims.toString("base64url")}.${signature}, k=${keys.publicKey}`;
    expect(() => vapidClaims(forged, SERVICE)).toThrow("not signed for here");
  });
});
