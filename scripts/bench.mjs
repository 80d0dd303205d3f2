// npm run bench: installs what is missing, then measures.
import { spawnSync } from "node:child_process";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
process.exit(
  spawnSync(process.execPath, ["--import", "tsx", "bench/bench.ts"], { cwd: HOUSE, stdio: "inherit" }).status ?? 1,
);
