/** Largest body of an ordinary request, and of a railway file. */
export const BODY_LIMIT = "2mb";
export const FILE_LIMIT = "34mb";
