// npm run bench, npm run campaign: installs what is missing, then runs a program from its source.
import { spawnSync } from "node:child_process";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const args = ["--import", "tsx", ...process.argv.slice(2)];
process.exit(spawnSync(process.execPath, args, { cwd: HOUSE, stdio: "inherit" }).status ?? 1);
