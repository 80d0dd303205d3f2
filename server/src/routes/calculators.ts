import { CALCULATORS, calculatorCalled } from "@alderman/core";
import express, { Router } from "express";
import { BODY_LIMIT } from "../limits.ts";

/** The small calculators over HTTP: JSON in, JSON out, errors with the same body as the command's. */
export function calculatorRoutes(): Router {
  const router = Router();
  router.use(express.json({ limit: BODY_LIMIT, strict: false }));
  router.get("/", (_request, response) => {
    response.json(CALCULATORS.map(({ name, title }) => ({ name, title })));
  });
  router.post("/:name", (request, response) => {
    const calculator = calculatorCalled(request.params.name);
    if (!calculator) {
      response
        .status(404)
        .json({ error: { message: `There is no calculator called "${request.params.name}".`, path: [] } });
      return;
    }
    response.json(calculator.run(request.body));
  });
  return router;
}
