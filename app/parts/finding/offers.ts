import { useEffect } from "react";

/** Something the palette can find and do. */
export interface Offer {
  /** What it is. */
  group: "Markets" | "Rungs" | "Marks" | "Places" | "Commands";
  name: string;
  /** Other words it is looked for by. */
  also?: string;
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

/** Offers in which every word that was typed stands, those that are called so before those that are only meant. */
export function found(offers: readonly Offer[], typed: string): Offer[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const all = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const called = offers.filter(({ name }) => all(name));
  return [...called, ...offers.filter((offer) => !called.includes(offer) && all(`${offer.name} ${offer.also ?? ""}`))];
}
