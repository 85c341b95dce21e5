import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  base: "/static/",
  plugins: [react()],
  build: { manifest: true, chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8000", "/recordings": "http://127.0.0.1:8000" } },
  test: { environment: "jsdom", setupFiles: ["src/test-setup.ts"], restoreMocks: true, testTimeout: 90_000 },
});
