import { defineConfig } from "vitest/config";

/** Settings of all; SQLite's native module wants processes, not threads. */
const all = { testTimeout: 20_000, pool: "forks", setupFiles: "core/testing/seed.ts" } as const;

export default defineConfig({
  test: {
    // as many as there are processors: some tests wait for programs that they have started
    maxWorkers: "100%",
    projects: [
      {
        test: {
          // these start programs, for which a busy machine takes its time
          ...{ ...all, testTimeout: 180_000, name: "server", include: ["server/**/*.test.ts"] },
          globalSetup: "scripts/builtForTests.mjs",
        },
      },
      // these leave nothing behind but what is known of objects by their identity: their modules are read once
      { test: { ...all, name: "core", include: ["core/**/*.test.ts"], isolate: false } },
      { test: { ...all, name: "web", include: ["web/**/*.test.{ts,tsx}"], isolate: false } },
    ],
  },
});
