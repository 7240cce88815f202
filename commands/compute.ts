import { main } from "./compute/compute.ts";

process.exitCode = main(process.argv.slice(2));
