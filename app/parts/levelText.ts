import type { LevelLine } from "#core/marks/levels";
import { rungText } from "#core/marks/wording";

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
