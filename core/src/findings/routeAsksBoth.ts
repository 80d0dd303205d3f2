import { turnoutLabel } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { buttonOfItsOwn, type Shared, sharedButtons } from "./routeButtonShared.ts";
import { rule } from "./rule.ts";

export const routeAsksBoth = rule<Shared & { label: string }>({
  id: "route-asks-both",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A button asks both ways of one turnout",
  about:
    "Both coils of a motor pull at once, share the pulse and hold the blades half way. It comes of two routes on one button that want the same turnout in different positions.",
  look: (look) =>
    sharedButtons(look).flatMap((shared) =>
      shared.both === null ? [] : [{ ...shared, label: turnoutLabel(look.record, shared.both) }],
    ),
  subject: ({ routes }) => routes.map(({ id }) => id).join(" "),
  where: ({ name }) => name,
  turnouts: ({ threads }) => threads,
  why: ({ name, routes, label }) =>
    `A press of ${name} asks for routes ${list(routes.map((route) => route.label))} at once, and they want ${label} at N and at R.`,
  remedies: ({ routes }, { record }) => [buttonOfItsOwn(record, routes)],
});
