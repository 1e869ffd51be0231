import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: { outDir: "dist", emptyOutDir: true, target: "es2022" },
  css: {
    preprocessorOptions: {
      scss: { quietDeps: true, silenceDeprecations: ["import"] },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8740" } },
});
