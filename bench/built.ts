// What the bench measures of core and store, as one part: it is built as interface and server are before it is measured.
export { benchAllot } from "./allot.ts";
export { benchDiodes } from "./diodes.ts";
export { benchNumbers } from "./numbers.ts";
export { benchSolver } from "./solver.ts";
export { benchStore } from "./store.ts";
