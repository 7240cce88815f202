import { useRouteLoaderData } from "react-router";
import { momentText } from "./times.ts";

/** How times are written for whoever reads. */
export interface Times {
  zone: string;
  /** "Wed 14 Oct 2026, 13:42 UTC", in the reader's zone. */
  moment(time: number): string;
}

/** Times in the zone the reader has chosen; UTC where nobody has. */
export function useTimes(): Times {
  const zone = (useRouteLoaderData("places/reader/reader") as { zone?: string } | undefined)?.zone ?? "UTC";
  return { zone, moment: (time) => `${momentText(time, zone)} ${zoneName(zone)}` };
}

/** "UTC", or the last part of a zone's name: "Reykjavik". */
export const zoneName = (zone: string) => zone.split("/").at(-1)?.replaceAll("_", " ") ?? zone;
