import type { NextFunction, Request, Response } from "express";

const OWN_HOST = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/**
 * Refuses requests that another web page could have caused: the Host must be this machine by its loopback names, and an
 * Origin, where the browser sends one, must be the same.
 */
export function requireOwnHost(request: Request, response: Response, next: NextFunction): void {
  const { host, origin } = request.headers;
  if (!host || !OWN_HOST.test(host)) {
    response
      .status(403)
      .json({ error: { message: "This address is not answered. Open the one that the program printed." } });
  } else if (origin !== undefined && origin !== `http://${host}`) {
    response.status(403).json({ error: { message: "Requests from other pages are not answered." } });
  } else next();
}
