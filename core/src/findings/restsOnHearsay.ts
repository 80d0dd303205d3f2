import { findType } from "../catalogue/catalogue.ts";
import { setFigure } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { find } from "../record/find.ts";
import type { Fact } from "../record/notes.ts";
import { restsOn } from "../schematic/restsOn.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { ownOf } from "../units/ownOf.ts";
import { type Remedy, rule } from "./rule.ts";

interface Hearsay {
  fact: Fact;
  threads: Thread[];
}

export const restsOnHearsay = rule<Hearsay>({
  id: "rests-on-hearsay",
  stage: "equip",
  column: null,
  severity: "look",
  title: "The plan rests on something that was only heard",
  about:
    "Hearsay never carries a design: plan as if it were false. A fact is worth more when it has been read in the leaflet, and most when it has been measured here. The rule names what rests on a fact of the lowest standing.",
  look: ({ record, threads }) =>
    record.facts
      .filter(({ standing }) => standing === "heard")
      .map((fact) => ({ fact, threads: restsOn(record, threads, fact) }))
      .filter((hearsay) => hearsay.threads.length > 0),
  subject: ({ fact }) => fact.id,
  where: ({ threads }) => list(threads.slice(0, 4).map(({ label }) => label)),
  turnouts: ({ threads }) => threads,
  why: ({ fact, threads }) => {
    const labels = threads.map(({ label }) => label);
    const named = labels.length > 4 ? `${labels.slice(0, 4).join(", ")} and ${labels.length - 4} more` : list(labels);
    const source = fact.source ? ` (${fact.source})` : "";
    return `"${fact.text}" was only heard${source}, and ${named} ${labels.length === 1 ? "rests" : "rest"} on it.`;
  },
  remedies: ({ fact }, { record }) => {
    const remedies: Remedy[] = [];
    for (const standing of ["read", "measured"] as const) {
      const draft = new Draft(record);
      draft.put("fact", { ...fact, standing });
      const label = standing === "read" ? "It is read in the leaflet now" : "It is measured now";
      remedies.push({ label, group: draft.group(`${fact.text}: ${standing}`) });
    }
    const own = fact.typeId === null ? undefined : find(record, "type", fact.typeId);
    if (own && fact.figure !== null && Object.hasOwn(own.figures, fact.figure)) {
      const draft = new Draft(record);
      for (const edit of setFigure(record, own.id, fact.figure, null).edits)
        if (edit.op === "put" && edit.kind === "type") draft.put("type", edit.value);
      draft.remove("fact", fact.id);
      const about = ownOf(findType(record, own.id)?.figures ?? {}, fact.figure)?.about ?? fact.figure;
      const label = `Plan as if it were false: "${about}" as in the catalogue`;
      remedies.unshift({ label, group: draft.group(label) });
    }
    return remedies;
  },
});
