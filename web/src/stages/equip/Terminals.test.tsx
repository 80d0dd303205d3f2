// Terminals of boards that take a probe, with what the meter shows there.
import { Derived, findType, terminalName } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { expect, it } from "vitest";
import { emptyStore, openIn } from "../../../testing/openStore.ts";
import { probe } from "../../store/view.ts";
import { Terminals } from "./Terminals.tsx";

const store = emptyStore();

/** The buttons of a board's terminals as markup. */
function buttons(label: string): string[] {
  const record = smallRailway();
  openIn(store, record);
  const device = record.devices.find((each) => each.label === label)!;
  const markup = renderToStaticMarkup(
    <Provider store={store}>
      <Terminals device={device} type={findType(record, device.typeId)!} />
    </Provider>,
  );
  return markup.match(/<button[^>]*>.*?<\/button>/g) ?? [];
}

it("offers every terminal, those of free outputs too, with what it is for", () => {
  const { schematic } = new Derived(smallRailway());
  const driver = schematic.threads.find(({ label }) => label === "M1/M2")!.motors[0]!.driver!;
  const names = buttons("D1").map((button) => /aria-label="Terminal ([^,"]+), [^"]+"/.exec(button)?.[1]);
  expect(names).toEqual(driver.type.terminals.map(({ name }) => terminalName("D1", name)));
  expect(names).toContain("D1-8B");
});

it("shows which of them carries which probe", () => {
  store.dispatch(probe({ probe: "red", end: { key: "d1:5A", name: "D1-5A" } }));
  store.dispatch(probe({ probe: "black", end: { key: "d1:5B", name: "D1-5B" } }));
  const pressed = buttons("D1").filter((button) => button.includes('aria-pressed="true"'));
  expect(pressed.map((button) => button.replaceAll(/<[^>]*>/g, ""))).toEqual(["5Ared", "5Bblack"]);
});
