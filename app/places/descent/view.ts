import type { Hours } from "#core/series/hours";

/** Address of another view of the market that is open. */
export function viewAddress(rung: string, hours: Hours, asOf?: number): string {
  return `?rung=${rung}${hours === "regular" ? "&hours=regular" : ""}${asOf === undefined ? "" : `&asOf=${asOf}`}`;
}
