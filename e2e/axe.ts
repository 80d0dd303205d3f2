import { createRequire } from "node:module";
import type { Page } from "@playwright/test";

/** The accessibility checker's script, to be put into the page. */
export const AXE = createRequire(import.meta.url).resolve("axe-core/axe.min.js");

interface Found {
  id: string;
  nodes: { target: unknown[]; failureSummary?: string }[];
}

/** What the checker finds against WCAG 2.1 AA, colour contrast among it, as short lines. */
export async function violations(page: Page): Promise<string[]> {
  const found = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as { axe: { run: (options: unknown) => Promise<{ violations: Found[] }> } };
    return (await axe.run({ runOnly: ["wcag2a", "wcag2aa", "wcag21aa"] })).violations;
  });
  return found.flatMap(({ id, nodes }) =>
    nodes.map(
      ({ target, failureSummary }) => `${id} at ${target.join(" ")}: ${failureSummary?.split("\n")[1]?.trim()}`,
    ),
  );
}
