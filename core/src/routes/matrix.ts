/** What a button has to energise: names of coils, such as "Y1 N". */
export interface Wish {
  button: string;
  coils: readonly string[];
}

/** A link from a button's wire to a coil's. */
export type Link = readonly [button: string, coil: string];

/** The fewest diodes that let every button energise its coils and no other. */
export interface Matrix {
  links: Link[];
  /** Links that may be a plain wire. */
  plain: Link[];
  /** Links that need a diode, cathode to the coil. */
  diodes: Link[];
  /** What each button would energise besides, were every link a plain wire. */
  sneak: Map<string, string[]>;
}

/** What is wrong with wishes as they were given: where, and a sentence. */
export interface WishFault {
  path: (string | number)[];
  message: string;
}

/** The first fault of wishes; null for wishes that can be wired. */
export function faultOfWishes(wishes: readonly Wish[]): WishFault | null {
  const buttons = new Set<string>();
  for (const { button, coils } of wishes) {
    if (buttons.has(button)) return { path: [button], message: `Two buttons are called ${button}.` };
    buttons.add(button);
    if (coils.length === 0)
      return { path: [button], message: `${button} energises nothing: give it a coil, or leave it out.` };
    const seen = new Set<string>();
    for (const [index, coil] of coils.entries()) {
      if (seen.has(coil)) return { path: [button, index], message: `${button} names ${coil} twice.` };
      seen.add(coil);
    }
  }
  return null;
}

/**
 * A link from a button may stay a plain wire exactly when every button that energises its coil wants all the coils of that
 * button too: current flows back up a plain link into the button's wire, and on to all that hangs on it. Every other link needs
 * a diode, cathode to the coil. Derived; held against brute force.
 */
export function matrixOf(wishes: readonly Wish[]): Matrix {
  const wanted = new Map(wishes.map(({ button, coils }) => [button, new Set(coils)]));
  const users = usersOf(wishes);
  const links = wishes.flatMap(({ button, coils }) => coils.map((coil): Link => [button, coil]));
  const isPlain = ([button, coil]: Link) =>
    (users.get(coil) ?? []).every((other) =>
      [...(wanted.get(button) ?? [])].every((each) => wanted.get(other)?.has(each)),
    );
  const plain = links.filter(isPlain);
  const order = new Map(links.map(([, coil], index) => [coil, index]));
  const sneak = new Map(
    wishes.map(({ button }) => {
      const reached = reachedBy(button, wanted, users);
      const besides = [...reached].filter((coil) => !wanted.get(button)?.has(coil));
      return [button, besides.sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0))];
    }),
  );
  return { links, plain, diodes: links.filter((link) => !plain.includes(link)), sneak };
}

/** The buttons that energise each coil. */
function usersOf(wishes: readonly Wish[]): Map<string, string[]> {
  const users = new Map<string, string[]>();
  for (const { button, coils } of wishes)
    for (const coil of coils) {
      const known = users.get(coil);
      if (known) known.push(button);
      else users.set(coil, [button]);
    }
  return users;
}

/** One step of a sneak path: back up from coils into the wires of other buttons, and on to what hangs on these. */
export interface SneakStep {
  /** Coils that the current has come to. */
  coils: string[];
  /** Buttons into whose wires it goes back up from there. */
  buttons: string[];
  /** What hangs on these besides. */
  besides: string[];
}

/** How a button's current goes astray where every link is a plain wire, step by step; none where nothing is astray. */
export function sneakWay(wishes: readonly Wish[], button: string): SneakStep[] {
  const wanted = new Map(wishes.map((wish) => [wish.button, wish.coils]));
  const users = usersOf(wishes);
  const seen = new Set<string>([button]);
  const reached = new Set<string>(wanted.get(button));
  const steps: SneakStep[] = [];
  for (let coils = [...reached]; coils.length > 0; ) {
    const buttons = [...new Set(coils.flatMap((coil) => users.get(coil) ?? []))].filter((each) => !seen.has(each));
    for (const each of buttons) seen.add(each);
    const besides = [...new Set(buttons.flatMap((each) => wanted.get(each) ?? []))].filter(
      (each) => !reached.has(each),
    );
    for (const each of besides) reached.add(each);
    if (buttons.length > 0 && besides.length > 0) {
      const by = coils.filter((coil) => (users.get(coil) ?? []).some((each) => buttons.includes(each)));
      steps.push({ coils: by, buttons, besides });
    }
    coils = besides;
  }
  return steps;
}

/** Coils that hang together with a button, were every link a plain wire. */
function reachedBy(
  button: string,
  wanted: ReadonlyMap<string, ReadonlySet<string>>,
  users: ReadonlyMap<string, readonly string[]>,
): Set<string> {
  const coils = new Set<string>();
  const buttons = new Set([button]);
  for (const at of buttons)
    for (const coil of wanted.get(at) ?? []) {
      if (coils.has(coil)) continue;
      coils.add(coil);
      for (const other of users.get(coil) ?? []) buttons.add(other);
    }
  return coils;
}
