import { Draft } from "../equip/draft.ts";
import { type InsulatedJoint, insulatedJoints, pointsOf } from "../line/insulatedJoints.ts";
import type { Junction } from "../line/layout.ts";
import { setGap } from "../line/marking.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Missing {
  junction: Junction;
  joints: InsulatedJoint[];
  threads: Thread[];
}

export const frogJointMissing = rule<Missing>({
  id: "frog-joint-missing",
  stage: "line",
  column: null,
  severity: "look",
  title: "An insulated joint is missing behind a live frog",
  about:
    "A frog that is fed by a contact, or by its blades, changes its rail with the blades, and the inner rails behind it change along. Where such a rail has current from elsewhere too, from a feeder, another frog or track that comes together with it, the two fight as soon as the blades lie otherwise. An insulated joint behind the frog keeps them apart. A siding that ends at a buffer needs none, and an insulated frog needs none anywhere.",
  look: ({ record, threads }) => {
    const missing = new Map<string, InsulatedJoint[]>();
    for (const joint of insulatedJoints(record))
      if (joint.junction && !joint.made)
        missing.set(joint.junction.id, [...(missing.get(joint.junction.id) ?? []), joint]);
    return [...missing.values()].flatMap((joints): Missing[] => {
      const junction = joints[0]?.junction;
      return junction ? [{ junction, joints, threads: threadsOfTurnouts(threads, new Set([junction.id])) }] : [];
    });
  },
  subject: ({ junction }) => junction.id.replaceAll(/[^a-z0-9-]+/gi, "-"),
  where: ({ junction }) => junction.turnout?.label ?? "?",
  turnouts: ({ threads }) => threads,
  why: ({ joints }) =>
    `${list(joints.map(({ where }) => where.replace(", behind the frog", "")))}: the inner rail behind the frog has current from elsewhere too, and no joint parts it from the frog.`,
  remedies: ({ joints }, { record }) => {
    const draft = new Draft(record);
    for (const joint of joints) {
      const [a, b] = pointsOf(joint);
      const known = draft.record.marks.some(
        (mark) => mark.what === "gap" && String([mark.x, mark.y].concat(mark.toX, mark.toY)) === String([...a, ...b]),
      );
      draft.take(setGap(draft.record, a, b, known ? "both" : joint.rails));
    }
    const label = joints.length === 1 ? "Part the rail behind the frog" : "Part the rails behind the frog";
    return [{ label, group: draft.group(label) }];
  },
});
