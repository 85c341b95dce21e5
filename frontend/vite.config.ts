import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";

/** Lays a compressed copy beside every text that is large enough: the server hands it to browsers that take it. */
const compress: Plugin = {
  name: "compress",
  apply: "build",
  closeBundle() {
    for (const name of readdirSync("dist", { recursive: true, encoding: "utf8" })) {
      if (!/\.(js|css|html|svg|json)$/.test(name)) continue;
      const text = readFileSync(join("dist", name));
      if (text.length < 1024) continue;
      writeFileSync(join("dist", `${name}.gz`), gzipSync(text, { level: 9 }));
      const params = { [constants.BROTLI_PARAM_QUALITY]: 11 };
      writeFileSync(join("dist", `${name}.br`), brotliCompressSync(text, { params }));
    }
  },
};

export default defineConfig({
  base: "/static/",
  plugins: [react(), compress],
  build: { manifest: true, chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8000", "/recordings": "http://127.0.0.1:8000" } },
  test: { environment: "jsdom", setupFiles: ["src/test-setup.ts"], restoreMocks: true, testTimeout: 90_000, isolate: false },
});
