// npm run dev: the server and the interface, both with hot reload.
import { spawn } from "node:child_process";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const port = process.env.ALDERMAN_PORT ?? "4271";
const options = { cwd: HOUSE, stdio: "inherit", env: { ...process.env, ALDERMAN_PORT: port } };
const children = [
  spawn(
    process.execPath,
    ["--watch", "--import", "tsx", "server/src/main.ts", "--api-only", ...process.argv.slice(2)],
    options,
  ),
  spawn("npx", ["vite", "web"], options),
];
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    for (const child of children) child.kill(signal);
  });
}
