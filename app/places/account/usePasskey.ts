import { startAuthentication, startRegistration } from "@simplewebauthn/browser";
import { useState } from "react";
import { failureText, postJson } from "../../parts/post.ts";

type Options = Parameters<typeof startRegistration>[0]["optionsJSON"];
type AskedFor = Parameters<typeof startAuthentication>[0]["optionsJSON"];

/** Makes a passkey or shows one, and says in a sentence what kept that from being done. */
export function usePasskey(onDone: () => void) {
  const [sentence, setSentence] = useState("");
  const [busy, setBusy] = useState(false);

  const ask = async <T>(address: string, show: (options: T) => Promise<object>) => {
    setBusy(true);
    setSentence("");
    const asked = await postJson<{ token: string; options: T }>(address, {});
    if (!asked.ok) setSentence(failureText(asked.failure));
    else {
      const { token, options } = asked.value;
      const response = await show(options).catch((error: unknown) => faultOf(error));
      if (typeof response === "string") setSentence(response);
      else {
        const proved = await postJson<object>(address, { token, response });
        if (proved.ok) onDone();
        else setSentence(failureText(proved.failure));
      }
    }
    setBusy(false);
  };

  return {
    ...{ sentence, busy },
    make: () => ask<Options>("/account/passkeys", (optionsJSON) => startRegistration({ optionsJSON })),
    show: () => ask<AskedFor>("/sign-in/passkey", (optionsJSON) => startAuthentication({ optionsJSON })),
  };
}

function faultOf(error: unknown): string {
  const name = error instanceof Error ? error.name : "";
  if (name === "NotAllowedError" || name === "AbortError") return "No passkey was shown.";
  if (name === "InvalidStateError") return "This device has a passkey of this account already.";
  const { port, hostname } = window.location;
  if (/^[\d.]+$/.test(hostname)) return `Passkeys need a name: open this page at http://localhost:${port}/.`;
  return "This browser could not use a passkey here.";
}
