import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // What was called so before leads on: an address may stand in somebody's notes.
  redirects: async () => [{ source: "/trace", destination: "/ways", permanent: true }],
  headers: async () => [
    {
      source: "/:path*",
      headers: [
        // With "no-referrer" a form of ours would not say where it comes from, and be refused.
        { key: "Referrer-Policy", value: "same-origin" },
        { key: "X-Content-Type-Options", value: "nosniff" },
        // No other site's page has a hold on a window of ours, or draws what is ours.
        { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
        { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
        { key: "Permissions-Policy", value: "camera=(), microphone=(), geolocation=(), usb=(), payment=()" },
      ],
    },
    // Data is shown by pages of ours; opened by itself, nothing in it may run.
    { source: "/api/:path*", headers: [{ key: "Content-Security-Policy", value: "default-src 'none'; sandbox" }] },
  ],
  // `npm test` checks the types of everything; a user who starts the application need not wait for that.
  typescript: { ignoreBuildErrors: true },
  // They read files of their own beside them.
  serverExternalPackages: ["pdfkit", "@napi-rs/canvas"],
  // Maps of the server's code are four fifths of what a build writes, and nobody reads them.
  experimental: { turbopackSourceMaps: false },
};

export default config;
