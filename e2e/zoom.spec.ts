// A window of 1280 x 800 at a zoom of 200 %: half as many CSS pixels each way.
import { expect, openDemo, test } from "./server.ts";

test.use({ viewport: { width: 640, height: 400 }, deviceScaleFactor: 2 });

test("at a zoom of 200 % nothing lies over anything else, nothing runs off to the side, and drawings have their room", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  for (const stage of ["Line", "Equip", "Routes", "Loom", "Numbers", "Prove"]) {
    await page.getByRole("link", { name: new RegExp(`^${stage}`) }).click();
    await expect(page.getByRole("heading", { level: 1, name: stage })).toBeVisible();
    const { wide, over } = await page.evaluate(() => {
      const head = document.querySelector("main h1")?.parentElement;
      const boxes = [...(head?.children ?? [])].map((each) => {
        // words may be longer than the box that holds them
        const range = document.createRange();
        range.selectNodeContents(each);
        return range.getBoundingClientRect();
      });
      const lies = (a: DOMRect, b: DOMRect) =>
        a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1;
      return {
        wide: document.documentElement.scrollWidth - innerWidth,
        over: boxes.some((a, index) => boxes.slice(index + 1).some((b) => lies(a, b))),
      };
    });
    expect([stage, wide, over]).toEqual([stage, 0, false]);
  }
  await page.getByRole("link", { name: /^Line/ }).click();
  const diagram = await page.getByRole("application", { name: "Line diagram" }).boundingBox();
  expect(diagram?.height).toBeGreaterThan(250);
});
