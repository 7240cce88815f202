import { reactRouter } from "@react-router/dev/vite";
import type { Plugin } from "vite";
import { defineConfig } from "vite";

/** The server bundle's entries keep their names, so that the start command can import them. */
const stableServerNames: Plugin = {
  name: "stable-server-names",
  configEnvironment(name) {
    if (name === "ssr") return { build: { rollupOptions: { output: { entryFileNames: "[name].js" } } } };
  },
};

const SERVER_ONLY = ["sequelize", "mariadb", "umzug", "@node-rs/argon2", "@resvg/resvg-js", "workerpool", "pino"];

export default defineConfig({
  plugins: [reactRouter(), stableServerNames],
  resolve: { tsconfigPaths: true },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  environments: { ssr: { build: { rollupOptions: { input: "./app/express.ts" } } } },
  optimizeDeps: {
    include: ["@mui/material", "@emotion/react", "@emotion/cache", "echarts/core", "comlink"],
    exclude: SERVER_ONLY,
  },
});
