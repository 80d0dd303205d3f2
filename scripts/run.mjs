// npm start, npm run demo: installs and builds what is missing, then serves.
import { spawn } from "node:child_process";
import { buildWeb, built, HOUSE, installPackages } from "./prepare.mjs";

installPackages();
buildWeb();
const server = spawn(process.execPath, [...built("main"), ...process.argv.slice(2)], { cwd: HOUSE, stdio: "inherit" });
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
