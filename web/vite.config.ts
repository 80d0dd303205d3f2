import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

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

export default defineConfig({
  plugins: [react(), tailwindcss()],
  root: import.meta.dirname,
  worker: { format: "es" },
  build: {
    target: "es2023",
    assetsInlineLimit: 0,
    rolldownOptions: { output: { codeSplitting: { groups: [packages] } } },
  },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:4271" } },
});
