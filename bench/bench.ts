// npm run bench: what is claimed of speed, measured as ratios within one run. Nothing here passes or fails.
import { readFileSync } from "node:fs";
import { openRailwayFile } from "@alderman/core";
import { benchAllot } from "./allot.ts";
import { benchDiodes } from "./diodes.ts";
import { benchEdits } from "./edits.ts";
import { benchFrames } from "./frames.ts";
import { benchLarge } from "./large.ts";
import { benchLine } from "./line.ts";
import { benchLive } from "./live.ts";
import { benchNumbers } from "./numbers.ts";
import { benchSolver } from "./solver.ts";
import { benchStore } from "./store.ts";

const sample = (name: string) =>
  openRailwayFile(readFileSync(new URL(`../samples/${name}.json`, import.meta.url), "utf8"));
const club = sample("club-400");

benchSolver(club);
benchEdits(sample("skerrin-ferry"), club);
benchAllot(club);
benchDiodes();
benchNumbers();
benchStore(club);
await benchLine(club);
await benchLive();
await benchFrames();
await benchLarge(club);
