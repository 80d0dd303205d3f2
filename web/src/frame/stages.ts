import type { RailwayRecord } from "@alderman/core";
import type { ComponentType } from "react";
import type { Results } from "../derivation/deriver.ts";
import {
  type Counted,
  equipShare,
  lineShare,
  loomShare,
  numbersShare,
  proveShare,
  routesShare,
  type Share,
} from "../derivation/shares.ts";

/** A stage of the work, or another view of one railway: everything that the frame needs to know of it. */
export interface Stage {
  /** Last part of its address. */
  path: string;
  title: string;
  /** Letter that leads to it after `g`. */
  key: string;
  /** Its share done, for a stage of the spine, null before that is known; others stand at the spine's foot or are reached from a stage. */
  share?: (turnouts: number, results: Counted, record: RailwayRecord | null) => Share | null;
  /** It has a line at the spine's foot, with a count of what waits there. */
  foot?: (results: Results) => number | null;
  load: () => Promise<ComponentType>;
  /** Names of the pictures in docs/screenshots that show it. */
  pictures: readonly string[];
}

/** The stage of a railway that is shown first, by its path. */
export const FIRST_STAGE = "equip";

/** Every stage, in the order of the work; spine, routes, keys and palette follow from this list. */
export const STAGES: readonly Stage[] = [
  {
    ...{ path: "line", title: "Line", key: "k", share: lineShare, pictures: ["line"] },
    load: async () => (await import("../stages/line/LineStage.tsx")).LineStage,
  },
  {
    ...{ path: "equip", title: "Equip", key: "e", share: equipShare },
    load: async () => (await import("../stages/equip/EquipStage.tsx")).EquipStage,
    pictures: [...["equip-thread", "equip-coil", "equip-list"], ...["equip-sense", "equip-schools"]],
  },
  {
    ...{ path: "routes", title: "Routes", key: "y", share: routesShare, pictures: ["routes"] },
    load: async () => (await import("../stages/routes/RoutesStage.tsx")).RoutesStage,
  },
  {
    ...{ path: "loom", title: "Loom", key: "l", share: loomShare, pictures: ["loom", "loom-tasks"] },
    load: async () => (await import("../stages/loom/LoomStage.tsx")).LoomStage,
  },
  {
    ...{
      path: "numbers",
      title: "Numbers",
      key: "n",
      share: numbersShare,
      pictures: ["numbers", "numbers-bus", "numbers-events", "numbers-live"],
    },
    load: async () => (await import("../stages/numbers/NumbersStage.tsx")).NumbersStage,
  },
  {
    ...{ path: "prove", title: "Prove", key: "p", share: proveShare, pictures: ["prove"] },
    load: async () => (await import("../stages/prove/ProveStage.tsx")).ProveStage,
  },
  {
    ...{ path: "findings", title: "Findings", key: "f", pictures: ["findings"] },
    load: async () => (await import("../findings/FindingsSheet.tsx")).FindingsSheet,
  },
  {
    ...{ path: "open-ends", title: "Open ends", key: "o", foot: ({ openEnds }) => openEnds, pictures: ["open-ends"] },
    load: async () => (await import("../stages/openEnds/OpenEndsStage.tsx")).OpenEndsStage,
  },
  {
    ...{ path: "types", title: "Device types", key: "d", pictures: ["device-types"] },
    load: async () => (await import("../stages/types/TypesStage.tsx")).TypesStage,
  },
];
