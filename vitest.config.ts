import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["core/**/*.test.ts", "server/**/*.test.ts", "web/**/*.test.{ts,tsx}"],
    testTimeout: 20_000,
    // SQLite's native module wants processes, not threads
    pool: "forks",
  },
});
