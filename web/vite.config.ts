import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    react(),
    // The shell of the pages is there without a server: what this build ships and nothing else, never what the server says. A newer one
    // takes over when the last page of the old is closed: no screen is loaded anew in service.
    VitePWA({
      strategies: "generateSW",
      registerType: "prompt",
      injectRegister: false,
      manifest: false,
      workbox: {
        globPatterns: ["index.html", "assets/*.{js,css,woff2}", "*.svg"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/healthz/, /^\/openapi\.json/, /^\/house\.crt/],
        cleanupOutdatedCaches: true,
        clientsClaim: true,
        skipWaiting: false,
        sourcemap: false,
        inlineWorkboxRuntime: true,
      },
    }),
  ],
  build: { outDir: "dist", emptyOutDir: true, target: "es2022" },
  css: {
    preprocessorOptions: {
      scss: { quietDeps: true, silenceDeprecations: ["import"] },
    },
  },
  // What is tested only computes: this ends what never would, however busy the machine.
  test: { testTimeout: 120_000 },
  server: { proxy: { "/api": "http://127.0.0.1:8740" } },
});
