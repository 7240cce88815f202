import workerpool from "workerpool";
import { readEventFile } from "./readEvents.ts";
import type { Drawing } from "./draw.ts";
import type { TaskName, Tasks } from "./tasks.ts";
import { tableOfJson } from "./jsonBars.ts";
import { measureWorth } from "./measureWorth.ts";
import readBars from "./readBars.ts";
import splitBars from "./splitBars.ts";
import { ruleHistory } from "./ruleHistory.ts";

/** The drawing library takes a second to load: only a process that draws pays for it. */
const draw = () => import("./draw.ts");

const tasks: {
  [Name in TaskName]: (given: Tasks[Name]["given"]) => Tasks[Name]["made"] | Promise<Tasks[Name]["made"]>;
} = {
  readBars: (given) => readBars(given, (share) => workerpool.workerEmit(share)),
  splitBars,
  jsonBars: tableOfJson,
  readEvents: readEventFile,
  ruleHistory: (given) => ruleHistory(given, (share) => workerpool.workerEmit(share)),
  measureWorth,
  drawPdf: async (paper) => (await import("./pdf.ts")).drawPdf(paper),
  drawSvg: async (drawing: Drawing) => (await draw()).drawSvg(drawing),
  drawBoth: async (drawings: Drawing[]) => {
    const { drawPng, drawSvg } = await draw();
    return drawings.map((drawing) => {
      const svg = drawSvg(drawing);
      return { svg, png: drawing.zoom === 0 ? new Uint8Array() : drawPng(svg, drawing.zoom) };
    });
  },
};

const ready = async () => {
  if (process.argv.includes("pictures")) await draw();
  return true;
};

workerpool.worker({ ...tasks, ready });
