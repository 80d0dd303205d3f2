import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  root: import.meta.dirname,
  worker: { format: "es" },
  build: { target: "es2023", assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:4271" } },
});
