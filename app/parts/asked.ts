import { QueryClient } from "@tanstack/react-query";
import type { FailureBody } from "./post.ts";

/** The server said no, in a sentence. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly failure: FailureBody | undefined,
  ) {
    super(failure?.sentence ?? "The server could not do this.");
  }
}

/** What one of our own addresses answers. Throws `Refused` when it says no, another error when nobody answers. */
export async function askJson<T>(address: string, signal?: AbortSignal): Promise<T> {
  const response = await fetch(address, { ...(signal ? { signal } : {}) });
  if (response.ok) return (await response.json()) as T;
  const body = (await response.json().catch(() => ({}))) as { failure?: FailureBody };
  throw new Refused(response.status, body.failure);
}

/**
 * What pages ask the server for besides their loaders. The first part of a key is the address that is asked, what
 * follows says what would make it another answer. An answer stands until its key changes; who knows better says so.
 */
export function newQueries(): QueryClient {
  return new QueryClient({
    defaultOptions: {
      queries: {
        queryFn: ({ queryKey: [address], signal }) => askJson(String(address), signal),
        // A no stays a no; a server that is away is asked again, and then with the next key.
        retry: (failures, error) => failures < 2 && !(error instanceof Refused),
        staleTime: Infinity,
        gcTime: 60_000,
        refetchOnWindowFocus: false,
        refetchOnReconnect: false,
        networkMode: "always",
      },
    },
  });
}
