import type { SaveState } from "./markStore.ts";

/** How far what was done has been saved, in words. */
export function saveText(save: SaveState): string {
  switch (save.state) {
    case "saved":
      return save.at === undefined ? "everything is saved" : `saved ${new Date(save.at).toTimeString().slice(0, 8)}`;
    case "saving":
      return "saving ...";
    case "waiting":
    case "refused":
      return save.sentence;
    case "conflict":
      return "not saved: another analyst changed the same mark";
  }
}
