import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compression } from "vite-plugin-compression2";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // What the server sends: a tablet at the machine may be on a slow line.
    compression({ include: /\.(js|css)$/, algorithms: ["brotliCompress", "gzip"] }),
  ],
  build: { outDir: "../src/valleywind/web", emptyOutDir: true, assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8340" } },
});
