// Makes samples/*.json through the product's own edits, so that a sample is never more than an owner could enter.
import { writeFileSync } from "node:fs";
import { edit, emptyRecord, type RailwayRecord, RULES, turnoutsFromTable, writeRailwayFile } from "@alderman/core";
import { MISTAKES } from "../core/testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS } from "../core/testing/recipes.ts";
import { clubRailway } from "./clubRailway.ts";
import { merged } from "./merged.ts";
import { skerrinFerry } from "./skerrinFerry.ts";
import { twoEndedYard } from "./twoEndedYard.ts";

/** Four turnouts on a shelf with toggles only: coils, one discharge unit, a lamp each. */
function shelf(): RailwayRecord {
  const record = emptyRecord("Four-turnout shelf");
  record.railway.note =
    "A shelf for shunting, an invented one: four coil motors, one discharge unit, a sprung toggle and a lamp each.";
  const head = ["label", "name", "hand", "motor", "driver", "control", "lamp", "run"];
  const names = ["Loop, west", "Loop, east", "Warehouse", "Dairy"];
  const rows = names.map((name, index) => [
    String(index + 1),
    name,
    index % 2 === 0 ? "left" : "right",
    "twin-coil-under-board",
    index === 0 ? "cdu" : "CD1",
    "toggle-centre-off",
    "lamp-two-colour",
    String(0.5 + index * 0.2),
  ]);
  return edit(record, turnoutsFromTable(record, [head, ...rows]).edits).record;
}

/** One turnout for each way of driving and commanding, feeding the frog and showing. */
function schools(): RailwayRecord {
  const all = { ...titled("", DRIVING), ...titled("Frog by ", FROGS), ...titled("Lamp from ", LAMPS) };
  const exhibits = Object.entries(all).map(([name, make]) => ({ name, record: make() }));
  return merged(
    "Schools",
    "Every way of driving, feeding the frog and showing, one turnout each, side by side.",
    exhibits,
  );
}

/** One railway for each rule, wired wrong in the way that the rule is about. */
function mistakes(): RailwayRecord {
  const exhibits = RULES.map(({ id, title }) => ({ name: title, record: MISTAKES[id]?.() ?? emptyRecord(id) }));
  const note = "One mistake for each rule of the findings, wired wrong on purpose. Nothing here is to be copied.";
  return merged("Mistakes", note, exhibits);
}

function titled(before: string, recipes: Record<string, () => RailwayRecord>): Record<string, () => RailwayRecord> {
  return Object.fromEntries(
    Object.entries(recipes).map(([name, make]) => {
      const title = `${before}${name}`;
      return [`${title.charAt(0).toUpperCase()}${title.slice(1)}`, make];
    }),
  );
}

const folder = new URL("../samples/", import.meta.url);
writeFileSync(new URL("club-400.json", folder), writeRailwayFile(clubRailway(400, 400)));
writeFileSync(new URL("schools.json", folder), writeRailwayFile(schools()));
writeFileSync(new URL("mistakes.json", folder), writeRailwayFile(mistakes()));
writeFileSync(new URL("shelf.json", folder), writeRailwayFile(shelf()));
writeFileSync(new URL("yard.json", folder), writeRailwayFile(twoEndedYard()));
writeFileSync(new URL("skerrin-ferry.json", folder), writeRailwayFile(skerrinFerry()));
