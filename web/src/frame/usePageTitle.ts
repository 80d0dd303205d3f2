import { useEffect } from "react";

/** Names the page in the browser's window and history. */
export function usePageTitle(title: string): void {
  useEffect(() => {
    document.title = `${title} - Alderman`;
  }, [title]);
}
