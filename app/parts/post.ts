export interface FailureBody {
  code: string;
  sentence: string;
  kept?: string;
  remedy?: string;
  fields?: Record<string, string>;
}

export type Posted<T> = { ok: true; value: T } | { ok: false; status: number; failure: FailureBody; value?: T };

/** Sends JSON to one of our own addresses. A server that does not answer is a failure like any other, with status 0. */
export async function postJson<T>(address: string, body: object): Promise<Posted<T>> {
  try {
    const response = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    });
    const value = (await response.json()) as T & { failure?: FailureBody };
    if (response.ok) return { ok: true, value };
    return {
      ok: false,
      status: response.status,
      value,
      failure: value.failure ?? { code: "unexpected", sentence: "The server could not do this." },
    };
  } catch {
    return {
      ok: false,
      status: 0,
      failure: { code: "away", sentence: "The server does not answer.", remedy: "It is tried again." },
    };
  }
}

/** A failure as one or two sentences. */
export function failureText({ sentence, kept, remedy }: FailureBody): string {
  return [sentence, kept, remedy].filter(Boolean).join(" ");
}
