import { runPlanted, reportLines } from "./waves.ts";
const l = reportLines(runPlanted(process.argv[2] ?? "tune", Number(process.argv[3] ?? 60))); for (const x of [...l.slice(0,6), ...l.slice(-2)]) console.log(x);
