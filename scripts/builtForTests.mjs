// Before the server's tests: its programs are built, which they start as `npm run demo` does.
import { built } from "./prepare.mjs";

export function setup() {
  built("main");
}
