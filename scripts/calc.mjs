// npm run -s calc -- NAME: a calculator as a command.
import { spawnSync } from "node:child_process";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const args = ["--import", "tsx", "server/src/calc.ts", ...process.argv.slice(2)];
process.exit(spawnSync(process.execPath, args, { cwd: HOUSE, stdio: "inherit" }).status ?? 1);
