/** Largest body of an ordinary request. */
export const BODY_LIMIT = "2mb";
/** Largest body of a railway file, whose own limit is one of characters (`MOST_CHARACTERS`), each of three bytes at most. */
export const FILE_LIMIT = "300mb";
