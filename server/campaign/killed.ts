// The program that is killed: it edits a railway as fast as it can, and says of each group that is on disk that it is.
import { writeSync } from "node:fs";
import { emptyRecord } from "@alderman/core";
import { seeded } from "@alderman/core/testing/networks";
import { openDatabase } from "../src/store/database.ts";
import { Store } from "../src/store/store.ts";
import { randomZones } from "./randomEdits.ts";

const [folder = "", seed = "0"] = process.argv.slice(2);
const store = new Store(openDatabase(folder));
const id = store.list()[0]?.id ?? store.create(emptyRecord("Killed"));
const random = seeded(Number(seed));
for (;;) {
  const { revision, record } = store.open(id);
  const { stamp } = store.apply(id, { revision }, { words: "Some zones", edits: randomZones(record, random) });
  // a line is written whole, and only once the group is there
  writeSync(1, `${stamp}\n`);
}
