import { expect, it } from "vitest";
import { Noting } from "./noting.ts";

it("notes what is asked while something is found out, once each, and nothing else", () => {
  const noting = new Noting<string>();
  noting.note("before");
  const { made, asked } = noting.during(() => {
    for (const each of ["a", "b", "a"]) noting.note(each);
    return 7;
  });
  noting.note("after");
  expect([made, asked]).toEqual([7, ["a", "b"]]);
  expect(noting.during(() => null).asked).toEqual([]);
});

it("counts what is found out on the way for what it is found out for", () => {
  const noting = new Noting<string>();
  const inner: (readonly string[])[] = [];
  const { asked } = noting.during(() => {
    noting.note("a");
    inner.push(noting.during(() => noting.note("b")).asked);
    noting.note("c");
  });
  expect(inner).toEqual([["b"]]);
  expect(asked).toEqual(["a", "b", "c"]);
});

it("goes on noting for what is outside when something fails", () => {
  const noting = new Noting<string>();
  const { asked } = noting.during(() => {
    expect(() =>
      noting.during(() => {
        noting.note("tried");
        throw new Error("refused");
      }),
    ).toThrow("refused");
    noting.note("then");
  });
  expect(asked).toEqual(["tried", "then"]);
});
