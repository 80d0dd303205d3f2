import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** Packages that every page stands on, in one file each: fewer pieces are smaller together, and a new version of the program leaves them in the browser's cache. */
const groups = [
  { name: "react", test: /node_modules\/(react|react-dom|react-router|scheduler|react-error-boundary)\// },
  {
    name: "state",
    test: /node_modules\/(@reduxjs\/toolkit\/dist\/redux-toolkit|react-redux|redux|redux-thunk|reselect|immer|use-sync-external-store|zod)/,
  },
  {
    name: "widgets",
    test: /node_modules\/(@floating-ui|@radix-ui\/(primitive|number|react-(arrow|collection|compose-refs|context|direction|dismissable-layer|id|popper|portal|presence|primitive|roving-focus|slot|tabs|toggle|toggle-group|tooltip|use-[a-z-]+|visually-hidden)))\//,
  },
];

export default defineConfig({
  plugins: [react(), tailwindcss()],
  root: import.meta.dirname,
  worker: { format: "es" },
  build: { target: "es2023", assetsInlineLimit: 0, rolldownOptions: { output: { codeSplitting: { groups } } } },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:4271" } },
});
