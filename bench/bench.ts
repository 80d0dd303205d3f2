// npm run bench: what is claimed of speed, measured as ratios within one run. Nothing here passes or fails.
import { readFileSync } from "node:fs";
import { openRailwayFile } from "@alderman/core";
import { asBuilt } from "./asBuilt.ts";
import type * as Built from "./built.ts";
import { benchEdits } from "./edits.ts";
import { benchFrames } from "./frames.ts";
import { benchLarge } from "./large.ts";
import { benchLine } from "./line.ts";
import { benchLive } from "./live.ts";
import type { KeptPiece } from "./solver.ts";

const sample = (name: string) =>
  openRailwayFile(readFileSync(new URL(`../samples/${name}.json`, import.meta.url), "utf8"));
const club = sample("club-400");

const built = await asBuilt<typeof Built>("./built.ts");

const pieces = readFileSync(new URL("./pieces.json", import.meta.url), "utf8");
built.benchSolver(club, JSON.parse(pieces) as KeptPiece[]);
built.benchAllot(club);
built.benchDiodes();
built.benchNumbers();
built.benchStore(club);
await benchEdits(club);
await benchLine(club);
await benchLive();
await benchFrames();
await benchLarge(club);
