// Set up before each test file: properties try the same cases each time, so that what fails is of the change that is tested.
// `npm run explore` looks with new seeds for what nobody thought of.
import fc from "fast-check";

fc.configureGlobal({ seed: Number(process.env.PROPERTY_SEED ?? 1) });
