// What the bench measures of the core, as one part: it is compiled as the interface is before it is measured.
export { benchAllot } from "./allot.ts";
export { benchDiodes } from "./diodes.ts";
export { benchEdits } from "./edits.ts";
export { benchNumbers } from "./numbers.ts";
export { benchSolver } from "./solver.ts";
