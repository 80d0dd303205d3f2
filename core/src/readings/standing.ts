import type { Behaviour } from "./behaviour.ts";
import { type DeviceState, IDLE } from "./kit.ts";
import { type Member, type Piece, stateKey } from "./piece.ts";
import type { Roles } from "./roles.ts";
import { askedOf, EVERY, type RailwayState } from "./states.ts";

/** How the devices of a piece stand, in its order, and each one's state in few characters. */
export interface Stands {
  states: readonly DeviceState[];
  keys: readonly string[];
}

/** Of a piece: which places of its members each turnout has a say in, and how they stand while nobody asks anything. */
interface Known {
  placesOf: ReadonlyMap<string, readonly number[]>;
  /** Places of those that what flows in the state itself tells how to stand. */
  flowing: readonly number[];
  quiet: Map<string, Stands>;
}

/**
 * How the devices of pieces stand in states of the railway. A state names few turnouts, and all that these have no say in does what it
 * does while none of them is named: that is worked out once for a moment, and of each state only what its turnouts have a say in.
 */
export class Standing {
  private readonly known = new Map<Piece, Known>();

  constructor(
    private readonly roles: Roles,
    private readonly behaviour: Behaviour,
  ) {}

  /** Takes over what was known before an edit of a piece that stands as it did. */
  takeOver(previous: Standing, piece: Piece): void {
    const known = previous.known.get(piece);
    if (known) this.known.set(piece, known);
  }

  /** @param state a settled one */
  in(piece: Piece, state: RailwayState): Stands {
    const known = this.known.get(piece) ?? this.lookAt(piece);
    this.known.set(piece, known);
    const quiet = this.quietIn(piece, known, state);
    const places = new Set(known.flowing);
    for (const leader of namedIn(state)) for (const place of known.placesOf.get(leader) ?? []) places.add(place);
    if (places.size === 0) return quiet;
    const states = [...quiet.states];
    const keys = [...quiet.keys];
    for (const place of places) {
      const own = this.behaviour.stateOf(piece.members[place] as Member, state);
      states[place] = own;
      keys[place] = stateKey(own);
    }
    return { states, keys };
  }

  /** How all stand that do not follow what flows, with no turnout named. */
  private quietIn({ members }: Piece, { quiet, flowing }: Known, state: RailwayState): Stands {
    const { otherwise = "N", moment, off, half = 1 } = state;
    const acting = state.acting === EVERY ? EVERY : null;
    const name = `${this.behaviour.inquiry} ${otherwise} ${moment} ${off} ${half} ${acting}`;
    const known = quiet.get(name);
    if (known) return known;
    const nobody: RailwayState = { asked: {}, otherwise, moment, acting, off, half };
    const follow = new Set(flowing);
    const states = members.map((member, place) => (follow.has(place) ? IDLE : this.behaviour.stateOf(member, nobody)));
    const stands = { states, keys: states.map(stateKey) };
    quiet.set(name, stands);
    return stands;
  }

  private lookAt({ members }: Piece): Known {
    const placesOf = new Map<string, number[]>();
    const flowing: number[] = [];
    for (const [place, member] of members.entries()) {
      if (this.behaviour.followsWhatFlows(member)) flowing.push(place);
      for (const leader of this.roles.leadersOf(member.device.id)) {
        const places = placesOf.get(leader);
        if (places) places.push(place);
        else placesOf.set(leader, [place]);
      }
    }
    return { placesOf, flowing, quiet: new Map() };
  }
}

/** Leaders of the turnouts that a state asks for something that it does not ask of all. */
function namedIn(state: RailwayState): Set<string> {
  const { asked, otherwise = "N", acting, also } = state;
  const named = new Set(Object.keys(asked).filter((leader) => askedOf(state, leader) !== otherwise));
  if (acting !== null) named.add(acting);
  for (const leader of also?.keys() ?? []) named.add(leader);
  return named;
}
