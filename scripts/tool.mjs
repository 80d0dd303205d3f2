// npm run -s calc -- NAME and npm run -s check -- FILE: a tool of the server's folder as a command, run where one stands.
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const [tool, ...given] = process.argv.slice(2);
const args = ["--import", import.meta.resolve("tsx"), join(HOUSE, `server/src/${tool}.ts`), ...given];
process.exit(spawnSync(process.execPath, args, { cwd: process.env.INIT_CWD ?? HOUSE, stdio: "inherit" }).status ?? 1);
