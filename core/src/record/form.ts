/**
 * Name of the form that records have, from the published schema of railway files (npm run schema writes it anew): what a program
 * with the same name has looked at need not be looked at again.
 */
export const RECORD_FORM = "dbf9bbf794a0556d";

/** The header in which a server says of what form the record is that it sends. */
export const FORM_HEADER = "Alderman-Form";
