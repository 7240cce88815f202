import type { DrawnPicture, Drawing } from "./draw.ts";
import type { RungWorth } from "#core/measure/worth";
import type { EventFile } from "#core/events/event";
import type { Paper } from "./pdf.ts";
import type { RuleAsk, RuleFound } from "./ruleHistory.ts";
import type { FileOptions, OpenFile, ReadFile } from "./readBars.ts";
import type { MeasureAsk } from "./measureWorth.ts";
import type { SplitAsk, SplitPart } from "./splitBars.ts";

/** What is done in processes of their own, by name: what each is given and what it gives back. */
export interface Tasks {
  /** A file of bars, or the sentence that says why it is none. */
  readBars: { given: { path: string; options: FileOptions }; made: ReadFile | OpenFile | string };
  /** A file of several markets taken apart, or the sentence that says why it cannot be. */
  splitBars: { given: SplitAsk; made: SplitPart[] | string };
  /** Puts the table in place of a file of bars in JSON; the sentence that says why it is none. */
  jsonBars: { given: { path: string }; made: string | undefined };
  /** A file of events, or the sentence that says why it is none. */
  readEvents: { given: { text: string; zone: string; from: number; to: number }; made: EventFile | string };
  /** A rule over the past of bars; the share that is done is told meanwhile. */
  ruleHistory: { given: RuleAsk; made: RuleFound };
  /** What findings of a rung were worth; nothing where it has no bar. */
  measureWorth: { given: MeasureAsk; made: RungWorth | undefined };
  drawPdf: { given: Paper; made: Uint8Array };
  drawSvg: { given: Drawing; made: string };
  /** Pictures of one chart, one after the other. */
  drawBoth: { given: Drawing[]; made: DrawnPicture[] };
}

export type TaskName = keyof Tasks;
