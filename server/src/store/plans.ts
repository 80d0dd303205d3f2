import {
  complete,
  type Edit,
  type Edited,
  edit,
  type Planned,
  planning,
  type RailwayRecord,
  type Steps,
} from "@alderman/core";
import { Recent } from "./recent.ts";

/** A railway as it stands. */
export interface Current {
  revision: number;
  record: RailwayRecord;
}

/** What was planned of the looms of railways: along with their edits, or in steps after them. */
export class Plans {
  /** What was derived of a railway's record when its loom was planned last, and the revision that holds it. */
  private readonly latest: Recent<{ planned: Planned; revision: number }>;
  /** Railways, as they stood, for which planning has begun. */
  private readonly underWay = new WeakSet<Current>();

  /**
   * @param kept for how many railways it is kept what was planned
   * @param large turnouts from which on a railway is planned after its edits, not along with them
   */
  constructor(
    kept: number,
    private readonly large: number,
  ) {
    this.latest = new Recent(kept);
  }

  clear(): void {
    this.latest.clear();
  }

  delete(id: string): void {
    this.latest.delete(id);
  }

  of(id: string): Planned | undefined {
    return this.latest.get(id)?.planned;
  }

  /** Whether a revision of a railway holds what was planned last. */
  isAt(id: string, revision: number): boolean {
    return this.latest.get(id)?.revision === revision;
  }

  keep(id: string, planned: Planned, revision: number): void {
    this.latest.set(id, { planned, revision });
  }

  /**
   * A group of edits with what they propose of the loom, so that one undo takes both back; a large railway is planned afterwards.
   * @returns what was derived for that besides, which is among what differs when it is planned next
   */
  along(
    id: string,
    edits: readonly Edit[],
    { record, inverses }: Edited,
  ): Edited & { edits: Edit[]; planned: Planned | null } {
    const alone = { edits: [...edits], record, inverses };
    if (record.turnouts.length >= this.large) return { ...alone, planned: null };
    const { edits: proposed, planned } = complete(record, this.of(id));
    if (proposed.length === 0) return { ...alone, planned };
    const whole = edit(record, proposed);
    return {
      ...{ edits: [...edits, ...proposed], record: whole.record, inverses: [...whole.inverses, ...inverses] },
      planned,
    };
  }

  /**
   * Plans a railway as it stands, in steps, and keeps that.
   * @param isThere whether it still stands so
   * @returns null when it does not, or it was planned before
   */
  *ahead(id: string, current: Current, isThere: () => boolean): Steps<Planned | null> {
    if (this.isAt(id, current.revision) || this.underWay.has(current)) return null;
    this.underWay.add(current);
    const steps = planning(current.record, this.of(id));
    for (let next = steps.next(); isThere(); next = steps.next()) {
      if (next.done) {
        this.keep(id, next.value, current.revision);
        return next.value;
      }
      yield;
    }
    return null;
  }
}
