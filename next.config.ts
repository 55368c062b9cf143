import type { NextConfig } from "next";

const config: NextConfig = { poweredByHeader: false, reactStrictMode: true };

export default config;
