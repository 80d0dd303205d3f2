import { type EditGroup, RecordError } from "@alderman/core";
import { useCallback } from "react";
import { notify } from "../store/notices.ts";
import { useAppDispatch } from "../store/store.ts";
import { commit } from "./actions.ts";

/** A group of edits, or how to make it of the record as it is; null when there is nothing to do. */
export type Making = EditGroup | null | (() => EditGroup | null);

/**
 * Makes edits under all rules.
 * @returns the sentence that says why they cannot be made, null when they were; to be shown where they were asked for
 */
export function useTryEdit(): (making: Making) => string | null {
  const dispatch = useAppDispatch();
  return useCallback(
    (making) => {
      try {
        const group = typeof making === "function" ? making() : making;
        if (group) dispatch(commit(group));
        return null;
      } catch (error) {
        if (!(error instanceof RecordError)) throw error;
        return error.message;
      }
    },
    [dispatch],
  );
}

/** Makes edits under all rules; what cannot be made is said in a notice. @returns whether they were made */
export function useEdit(): (making: Making) => boolean {
  const tryEdit = useTryEdit();
  const dispatch = useAppDispatch();
  return useCallback(
    (making) => {
      const problem = tryEdit(making);
      if (problem !== null) dispatch(notify(problem));
      return problem === null;
    },
    [tryEdit, dispatch],
  );
}
