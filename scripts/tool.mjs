// npm run -s calc -- NAME and npm run -s check -- FILE: a program of the server as a command, run where one stands.
import { spawnSync } from "node:child_process";
import { built, HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const [tool, ...given] = process.argv.slice(2);
const options = { cwd: process.env.INIT_CWD ?? HOUSE, stdio: "inherit" };
process.exit(spawnSync(process.execPath, [...built(tool), ...given], options).status ?? 1);
