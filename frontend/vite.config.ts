import { readFileSync } from "node:fs";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compression } from "vite-plugin-compression2";

/** The licences of the fonts go where the fonts go; those of the scripts are written by the build itself. */
const fontLicences = {
  name: "font-licences",
  generateBundle(this: { emitFile: (file: object) => void }) {
    for (const font of ["atkinson-hyperlegible-next", "atkinson-hyperlegible-mono"]) {
      const source = readFileSync(`node_modules/@fontsource/${font}/LICENSE`);
      this.emitFile({ type: "asset", fileName: `licences/${font}.txt`, source });
    }
  },
};

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    fontLicences,
    // What the server sends: a tablet at the machine may be on a slow line.
    compression({ include: /\.(js|css)$/, algorithms: ["brotliCompress", "gzip"] }),
  ],
  build: {
    outDir: "../src/valleywind/web",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    license: { fileName: "licences/scripts.md" },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8340" } },
});
