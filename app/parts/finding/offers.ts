import { useEffect } from "react";

/** Something the palette can find and do. */
export interface Offer {
  /** What it is. */
  group: "Markets" | "Rungs" | "Marks" | "Places" | "Commands";
  name: string;
  /** Its key, in the notation of the list of keys. */
  key?: string;
  run(): void;
}

const offered = new Set<() => readonly Offer[]>();

/** What the page offers to be found while it is open. */
export function useOffers(offers: () => readonly Offer[]): void {
  useEffect(() => {
    offered.add(offers);
    return () => void offered.delete(offers);
  }, [offers]);
}

export function allOffers(): Offer[] {
  return [...offered].flatMap((offers) => [...offers()]);
}
