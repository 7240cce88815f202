import type { ImportJob } from "../../../server/intake/jobs.ts";

/** When it makes sense to ask again (s). */
const AGAIN = "1";

/**
 * How a program is told of an import: its report once it is stored, what stopped it, or how far it is and where to ask
 * (RFC 9110, 15.3.3: 202 to whoever sent it).
 */
export function answerImport(job: ImportJob, isFirst = false): Response {
  if (job.state === "refused") throw job.failure;
  if (job.state === "stored")
    return Response.json(isFirst ? job.report : { id: job.id, state: job.state, report: job.report });
  const { id, state, step, share } = job;
  return Response.json(
    { id, state, step, share },
    { status: isFirst ? 202 : 200, headers: { Location: `/api/imports/${id}`, "Retry-After": AGAIN } },
  );
}
