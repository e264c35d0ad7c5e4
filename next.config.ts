import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked once, by tsc in npm test.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    "pg",
    "graphile-worker",
    "@node-rs/argon2",
    "piscina",
    "exceljs",
    "yauzl",
    "date-holidays",
  ],
  turbopack: { root: import.meta.dirname },
  experimental: {
    optimizePackageImports: ["lucide-react", "radix-ui"],
    // As much as the HTTP API takes.
    serverActions: { bodySizeLimit: "4mb" },
  },
};
export default config;
