import { randomUUID } from "node:crypto";

/** Parts of addresses that are places of the Library. */
const PLACES = new Set(["import", "imports", "derive"]);

/** A name as the part of an address: letters and digits of any script's Latin form, otherwise a short random one. */
export function slugOf(name: string): string {
  const slug = name
    .normalize("NFKD")
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/[^\w-]/g, "")
    .replace(/^-+|-+$/g, "")
    .toLowerCase()
    .slice(0, 60);
  return slug && !PLACES.has(slug) ? slug : `${slug || "market"}-${randomUUID().slice(0, 8)}`;
}
