import * as z from "zod/mini";
import { MOST_ROUTES, type Route, routesIn } from "../line/routes.ts";
import { badInput, calculator } from "./calculator.ts";
import { LINE_FIELDS, LineInput, lineFromForm, requireLine } from "./lineInput.ts";

const Output = z.strictObject({
  routes: z.array(
    z.strictObject({
      from: z.string(),
      to: z.string(),
      settings: z.record(z.string(), z.enum(["normal", "reverse"])),
    }),
  ),
});

/** Every way between two ends of a line. */
export const routes = calculator({
  name: "routes",
  title: "Routes of a line",
  about:
    "Every way between two ends, with how each turnout on it has to lie; none is passed twice, none from leg to leg.",
  fields: LINE_FIELDS,
  results: [{ name: "routes", title: "Routes", unit: "", digits: 0 }],
  fromForm: lineFromForm,
  input: LineInput,
  output: Output,
  run: (given) => {
    const found: Route[] = [];
    for (const route of routesIn(requireLine(given))) {
      if (found.length === MOST_ROUTES)
        throw badInput(`The line has more than ${MOST_ROUTES} routes. Take a part of it.`, ["links"]);
      found.push(route);
    }
    return { routes: found };
  },
});
