// npm run bench: what is claimed of speed, measured as ratios within one run. Nothing here passes or fails.
import { readFileSync } from "node:fs";
import { openRailwayFile } from "@alderman/core";
import { asBuilt } from "./asBuilt.ts";
import type * as Core from "./core.ts";
import { benchFrames } from "./frames.ts";
import { benchLarge } from "./large.ts";
import { benchLine } from "./line.ts";
import { benchLive } from "./live.ts";
import { benchStore } from "./store.ts";

const sample = (name: string) =>
  openRailwayFile(readFileSync(new URL(`../samples/${name}.json`, import.meta.url), "utf8"));
const club = sample("club-400");

const core = await asBuilt<typeof Core>("./core.ts");

core.benchSolver(club);
core.benchEdits(sample("skerrin-ferry"), club);
core.benchAllot(club);
core.benchDiodes();
core.benchNumbers();
benchStore(club);
await benchLine(club);
await benchLive();
await benchFrames();
await benchLarge(club);
