import { constants } from "node:zlib";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { compression, defineAlgorithm } from "vite-plugin-compression2";

/**
 * Packages that every page stands on, in one file: one is smaller than many, and a new version of the program leaves it in
 * the browser's cache.
 */
const packages = {
  name: "packages",
  test: new RegExp(
    `node_modules/(${[
      "(react|react-dom|react-router|scheduler|react-error-boundary)/",
      "@reduxjs/toolkit/dist/redux-toolkit|react-redux|redux|redux-thunk|reselect|immer|use-sync-external-store|zod",
      "@floating-ui/",
      "@radix-ui/(primitive|number|react-(arrow|collection|compose-refs|context|direction|dismissable-layer|id|popper|portal|presence|primitive|roving-focus|slot|tabs|toggle|toggle-group|tooltip|use-[a-z-]+|visually-hidden))/",
    ].join("|")})`,
  ),
};

/** Scripts and styles once more, packed, as the server hands them out: a megabyte and a half takes half a second to pack. */
const packed = compression({
  algorithms: [defineAlgorithm("brotliCompress", { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } })],
  include: /\.(js|css)$/,
  logLevel: "silent",
});

/** The script with which a page that names a railway begins is one of its own, so that it does not wait for what draws the page. */
const early: Plugin = {
  name: "early",
  transformIndexHtml: {
    order: "post",
    handler: (_html, { bundle = {} }) =>
      Object.keys(bundle)
        .filter((name) => /early-.*\.js$/.test(name))
        .map((name) => ({
          ...{ tag: "script", attrs: { type: "module", async: true, src: `/${name}` } },
          injectTo: "head-prepend",
        })),
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), early, packed],
  root: import.meta.dirname,
  worker: { format: "es" },
  build: {
    target: "es2023",
    assetsInlineLimit: 0,
    rolldownOptions: {
      input: { index: `${import.meta.dirname}/index.html`, early: `${import.meta.dirname}/src/session/early.ts` },
      output: { codeSplitting: { groups: [packages] } },
    },
  },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:4271" } },
});
