import type { LevelLine } from "./levels.ts";
import { rungText } from "./wording.ts";

/** What a level is, of which rung, and how it stands: "last high, 4 hours, tested". */
export function levelText({
  role,
  label,
  rung,
  status,
}: Pick<LevelLine, "role" | "label" | "rung" | "status">): string {
  const what = role === "kill" ? `\u00d7 ends "${label}"` : label;
  return [what, rungText(rung).toLowerCase(), status === "alive" ? "" : status].filter(Boolean).join(", ");
}
