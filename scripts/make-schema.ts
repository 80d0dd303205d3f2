// npm run schema: writes docs/railway-file.schema.json from the program's own schemas, and the name of its form.
import { createHash } from "node:crypto";
import { writeFileSync } from "node:fs";
import { railwayFileSchema } from "@alderman/core";

const schema = railwayFileSchema();
writeFileSync(new URL("../docs/railway-file.schema.json", import.meta.url), schema);

const form = createHash("sha256").update(schema).digest("hex").slice(0, 16);
writeFileSync(
  new URL("../core/src/record/form.ts", import.meta.url),
  `/**
 * Name of the form that records have, from the published schema of railway files (npm run schema writes it anew): what a program
 * with the same name has looked at need not be looked at again.
 */
export const RECORD_FORM = "${form}";

/** The header in which a server says of what form the record is that it sends. */
export const FORM_HEADER = "Alderman-Form";
`,
);
