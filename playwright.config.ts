import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "e2e",
  testMatch: "*.spec.ts",
  timeout: 90_000,
  expect: { timeout: 10_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  // a busy machine may be late once; what fails twice is wrong, and what passed late is listed as flaky
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"], ["json", { outputFile: "test-results/browser.json" }]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    // what a page asks for is what the tests play with; the one that looks at the page kept for bad times lets it in
    serviceWorkers: "block",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      // a sandbox needs a user other than root; without the rest the browser looks for the network
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
