import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { joinRows, putOnBoards } from "../equip/diodeBoards.ts";
import { Draft } from "../equip/draft.ts";
import { setMotor } from "../equip/equipment.ts";
import { commandRoutes, putOnDecoders } from "../equip/routeSchools.ts";
import { removeRoutes, setInRoute } from "../equip/routes.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Route } from "../record/routes.ts";
import type { Position } from "../record/schemas.ts";
import { movingWith } from "../routes/boards.ts";
import { controlsOfRoute, routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import { drivesItself, inputOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface Impossible {
  route: Route;
  /** Other routes with the same in their way. */
  others: Route[];
  why: string;
  /** Turnout that stands in the way; null for a route that sets none. */
  turnoutId: string | null;
  kind: "empty" | "no motor" | "against its leader" | "not by diodes" | "not by commands";
  threads: Thread[];
}

export const routeImpossible = rule<Impossible>({
  id: "route-impossible",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A route that nothing can set",
  about:
    "A route sets turnouts by their motors. One without a motor stays as it lies; two that move together cannot be asked for different positions; a route of no turnout does nothing. Through diodes goes a pulse for coils only: a stall motor or a servo in the same route needs its own way, a macro of a board or a message to a computer.",
  look: (look) => {
    const found = routesInOrder(look.record).flatMap((route) => problemOf(look, route));
    const motorless = new Map<string, Impossible>();
    // what a motor is missing to is said once, with all routes that ask for it
    return found.filter((each) => {
      const known = each.kind === "no motor" ? motorless.get(each.turnoutId ?? "") : undefined;
      if (each.kind === "no motor" && !known) motorless.set(each.turnoutId ?? "", each);
      known?.others.push(each.route);
      return !known;
    });
  },
  subject: ({ route, kind, turnoutId }) => (kind === "no motor" ? `${kind} ${turnoutId}` : `${route.id} ${kind}`),
  where: ({ route }) => route.label,
  turnouts: ({ threads }) => threads,
  why: ({ why, others }) =>
    others.length === 0 ? why : why.replace(/\.$/, `; so it is in ${list(others.map(({ label }) => label))}.`),
  remedies: ({ route, others, kind, turnoutId }, { record }) =>
    remediesFor(record, [route, ...others], kind, turnoutId),
});

function problemOf(look: Look, route: Route): Impossible[] {
  const { record, threads } = look;
  const own = turnoutsOfRoute(record, route.id);
  if (own.length === 0)
    return [
      { route, others: [], kind: "empty", turnoutId: null, threads: [], why: `Route ${route.label} sets no turnout.` },
    ];
  const threadOf = new Map(
    threads.flatMap((thread) => [thread.turnout, ...thread.followers].map(({ id }) => [id, thread])),
  );
  const labelOf = (id: string) => find(record, "turnout", id)?.label ?? id;
  const asked = new Map(own.map(({ turnoutId, to }) => [turnoutId, to]));
  const first = own.flatMap(({ turnoutId, to }): Impossible[] => {
    const thread = threadOf.get(turnoutId);
    const those = thread ? [thread] : [];
    const against = movingWith(record, turnoutId).find((id) => id < turnoutId && (asked.get(id) ?? to) !== to);
    if (against)
      return [
        {
          ...{ route, others: [], kind: "against its leader" as const, turnoutId, threads: those },
          why: `Route ${route.label} asks ${labelOf(against)} for ${asked.get(against)} and ${labelOf(turnoutId)} for ${to}, and the two move together.`,
        },
      ];
    if (thread && !thread.motors.some((motor) => motor.turnout.id === turnoutId))
      return [
        {
          ...{ route, others: [], kind: "no motor" as const, turnoutId, threads: those },
          why: `Route ${route.label} sets ${labelOf(turnoutId)} to ${to}, and it has no motor: it stays as it lies.`,
        },
      ];
    return [];
  });
  const concerned = [...new Set([...asked.keys()].flatMap((id) => threadOf.get(id) ?? []))];
  return first.length > 0 ? first : [...notByDiodes(look, route, concerned), ...notByCommands(look, route, concerned)];
}

/** Turnouts of a route with buttons at diode boards that hang on none. */
function notByDiodes({ record }: Look, route: Route, threads: readonly Thread[]): Impossible[] {
  const throughDiodes = controlsOfRoute(record, route.id).some(({ deviceId }) =>
    assignmentsOfDevice(record, deviceId).some(
      (a) =>
        a.role === "input" &&
        a.controlId === deviceId &&
        typeOf(record, deviceOf(record, a.deviceId)).drives === "matrix",
    ),
  );
  if (!throughDiodes) return [];
  const wrong = [...new Set(threads)].flatMap((thread) =>
    thread.motors.filter((motor) => motor.driver?.type.drives !== "matrix"),
  );
  if (wrong.length === 0) return [];
  const coils = wrong.filter(({ type }) => traitsOf(type).movedBy === "pulse");
  const other = wrong.filter((motor) => !coils.includes(motor));
  const words = [
    ...(coils.length > 0
      ? [`${list(coils.map(labelOfMotor))} ${coils.length === 1 ? "hangs" : "hang"} on no diode board`]
      : []),
    ...(other.length > 0 ? [`diodes pass no current that ${list(other.map(asKind))} could use`] : []),
  ];
  return [
    {
      ...{
        route,
        others: [],
        kind: "not by diodes",
        turnoutId: wrong[0]?.turnout.id ?? null,
        threads: [...new Set(threads)],
      },
      why: `Route ${route.label} is asked for by a button through diodes, but ${words.join(", and ")}.`,
    },
  ];
}

const labelOfMotor = ({ turnout }: ThreadMotor) => turnout.label;
const KINDS: Partial<Record<string, string>> = {
  reversal: "a stall motor",
  signal: "a servo",
  commands: "a motor with its decoder",
};
const asKind = ({ turnout, type }: ThreadMotor) =>
  `${turnout.label} (${KINDS[traitsOf(type).movedBy ?? ""] ?? type.short})`;

function remediesFor(
  record: RailwayRecord,
  routes: readonly Route[],
  kind: Impossible["kind"],
  turnoutId: string | null,
): Remedy[] {
  const [route] = routes;
  if (!route) return [];
  if (kind === "empty" || turnoutId === null)
    return [{ label: `Take route ${route.label} away`, group: removeRoutes(record, [route.id]) }];
  if (kind === "not by diodes")
    return (["macro", "message"] as const).map((school): Remedy => {
      const words = school === "macro" ? `Keep ${route.label} as a macro` : `Have a computer set ${route.label}`;
      return { label: words, group: commandRoutes(record, [route.id], school) };
    });
  if (kind === "not by commands")
    return [
      { label: `Put the motors of ${route.label} on a decoder`, group: onDecoders(record, route) },
      { label: `Fit a button for ${route.label}`, group: commandRoutes(record, [route.id], "buttons") },
    ];
  const label = find(record, "turnout", turnoutId)?.label ?? turnoutId;
  const draft = new Draft(record);
  for (const { id } of routes) draft.take(setInRoute(draft.record, id, turnoutId, null));
  const words = `Leave ${label} out of ${list(routes.map((each) => each.label))}`;
  const leave: Remedy = { label: words, group: draft.group(words) };
  if (kind === "no motor") return [motorFor(record, routes, turnoutId, label), leave];
  const [leader] = movingWith(record, turnoutId).flatMap((id) =>
    turnoutsOfRoute(record, route.id).filter((each) => each.turnoutId === id),
  );
  const to: Position = leader?.to ?? "N";
  return [{ label: `${label} to ${to} as well`, group: setInRoute(record, route.id, turnoutId, to) }, leave];
}

/** A motor like those of the other turnouts of some routes, on a diode board where they hang on one. */
function motorFor(record: RailwayRecord, routes: readonly Route[], turnoutId: string, label: string): Remedy {
  const draft = new Draft(record);
  const ids = routes.map(({ id }) => id);
  const others = ids.flatMap((id) =>
    turnoutsOfRoute(record, id).flatMap((each) => assignmentsOfTurnout(record, each.turnoutId, "motor")),
  );
  const [like] = others.map(({ deviceId }) => deviceOf(record, deviceId).typeId);
  setMotor(draft, turnoutId, like ?? "twin-coil-under-board");
  const asked = ids.filter((id) => controlsOfRoute(record, id).length > 0);
  if (asked.length > 0) {
    putOnBoards(draft, asked);
    joinRows(draft);
  }
  const words = `Fit a motor at ${label}`;
  return { label: words, group: draft.group(words) };
}

/** The coil motors of a route on outputs that commands reach. */
function onDecoders(record: RailwayRecord, route: Route): EditGroup {
  const draft = new Draft(record);
  putOnDecoders(draft, [route.id]);
  return draft.group(`The motors of ${route.label} hang on a decoder`);
}

/** Turnouts of a route by macro or message that no command reaches: their motors hang on a diode board or a bare unit. */
function notByCommands({ record }: Look, route: Route, threads: readonly Thread[]): Impossible[] {
  const asking = controlsOfRoute(record, route.id);
  const byCommand = asking.filter(({ deviceId, way }) => {
    const type = typeOf(record, deviceOf(record, deviceId));
    return traitsOf(type).asks === null || inputOf(record, deviceId, way) !== undefined;
  });
  if (asking.length === 0 || byCommand.length < asking.length) return [];
  const deaf = threads.flatMap(({ motors }) =>
    motors.filter((motor) => !drivesItself(motor) && !motor.driver?.type.hears && motor.driver !== null),
  );
  if (deaf.length === 0) return [];
  const words = deaf.map(({ turnout, driver }) => `${turnout.label} on ${driver?.device.label}`);
  return [
    {
      ...{ route, others: [], kind: "not by commands", turnoutId: deaf[0]?.turnout.id ?? null, threads: [...threads] },
      why: `Route ${route.label} is set by commands, and none reaches ${list(words)}.`,
    },
  ];
}
