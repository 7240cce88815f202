/**
 * An expected failure, told to the person at fault or in need: what happened, what was kept, what to do.
 * Thrown by services, turned into a 4xx answer by loaders and actions.
 */
export class Failure extends Error {
  constructor(
    readonly code: string,
    readonly sentence: string,
    readonly details: {
      status?: number;
      kept?: string;
      remedy?: string;
      fields?: Record<string, string>;
      /** From when on it will be otherwise (ms UTC). */
      until?: number;
      /** The request's number, under which it was written down. */
      requestId?: string;
    } = {},
  ) {
    super(sentence);
  }

  get status(): number {
    return this.details.status ?? 422;
  }

  /** What the browser gets. */
  get body() {
    const { kept, remedy, fields, requestId } = this.details;
    return { failure: { code: this.code, sentence: this.sentence, kept, remedy, fields, requestId } };
  }
}

export function notFound(what: string): Failure {
  return new Failure("not-found", `There is no such ${what}.`, { status: 404 });
}
