import type { BuildSheet, Construction } from "@alderman/core";
import { proxy, wrap } from "comlink";
import { useEffect, useState } from "react";
import type { BoardWorker } from "./board.worker.ts";

export type BoardWork = { sheet: BuildSheet } | { share: number; crossings: number } | { failed: string };

/** A construction laid between two rows of terminals, in a thread of its own; another construction ends it. */
export function useBoard(construction: Construction): BoardWork {
  const [work, setWork] = useState<BoardWork>({ share: 0, crossings: 0 });
  useEffect(() => {
    const thread = new Worker(new URL("./board.worker.ts", import.meta.url), { type: "module" });
    let isWanted = true;
    setWork({ share: 0, crossings: 0 });
    const failed = () => isWanted && setWork({ failed: "Laying the board ended by itself. Open it once more." });
    thread.addEventListener("error", failed);
    wrap<BoardWorker>(thread)
      .lay(
        construction,
        // what is told may come later than the answer, by a way of its own
        proxy((done) => isWanted && setWork((now) => ("share" in now ? done : now))),
      )
      .then((sheet) => isWanted && setWork({ sheet }))
      .catch(failed)
      .finally(() => thread.terminate());
    return () => {
      isWanted = false;
      thread.terminate();
    };
  }, [construction]);
  return work;
}
