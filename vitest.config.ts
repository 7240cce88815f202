import { defineConfig } from "vitest/config";

const TESTS = "{core,chart,contracts,server,demo,commands,app,bench}/**/*.test.ts";
/**
 * Tests of what the database holds share one: they run one after the other. All share what they import; the two
 * projects are run beside each other (`commands/test.ts`).
 */
const ON_TABLES = ["server/**/*.test.ts", "commands/desk/*.test.ts"];

export default defineConfig({
  test: {
    setupFiles: ["./vitest.setup.ts"],
    // A machine may stand still for seconds: what is waited for comes, only later.
    testTimeout: 40_000,
    hookTimeout: 40_000,
    expect: { poll: { timeout: 15_000 } },
    isolate: false,
    maxWorkers: 1,
    projects: [
      { extends: true, test: { name: "computed", include: [TESTS], exclude: [...ON_TABLES, "node_modules/**"] } },
      { extends: true, test: { name: "stored", include: ON_TABLES } },
    ],
  },
});
