import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // `npm test` checks the types of everything; a user who starts the application need not wait for that.
  typescript: { ignoreBuildErrors: true },
};

export default config;
