import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: ".",
  testMatch: /.*\.spec\.ts$/,
  // What is waited for is bounded where it waits; a slow machine must not fail a long journey.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  // One world, one clock: journeys that move the clock must not run beside others.
  workers: 1,
  fullyParallel: false,
  retries: 0,
  reporter: [["json"], ["list"]],
  outputDir: "../../.local/results/browser",
  use: {
    baseURL: process.env["BASE_URL"] ?? "http://localhost:3210",
    viewport: { width: 1280, height: 800 },
    locale: "en-IE",
    timezoneId: "Europe/Dublin",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
    screenshot: "only-on-failure",
    actionTimeout: 45_000,
  },
});
