// npm run schema: writes docs/railway-file.schema.json from the program's own schemas.
import { writeFileSync } from "node:fs";
import { railwayFileSchema } from "@alderman/core";

writeFileSync(new URL("../docs/railway-file.schema.json", import.meta.url), railwayFileSchema());
