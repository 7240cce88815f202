import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,chart,contracts,server,demo,commands,app,bench}/**/*.test.ts"],
    setupFiles: ["./vitest.setup.ts"],
    // Server tests share one database.
    fileParallelism: false,
    testTimeout: 20_000,
  },
});
