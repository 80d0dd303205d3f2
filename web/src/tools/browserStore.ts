/** Which of the browser's stores: for good, or for as long as the window is open. */
type Lasts = "for good" | "in this window";

/** What this browser keeps under a name; null when it keeps nothing, or lets nobody ask. */
export function keptText(name: string, lasts: Lasts = "for good"): string | null {
  try {
    return storeOf(lasts).getItem(name);
  } catch {
    return null;
  }
}

/** Keeps a text under a name, where the browser allows it. @returns whether it is kept */
export function keepText(name: string, text: string, lasts: Lasts = "for good"): boolean {
  try {
    storeOf(lasts).setItem(name, text);
    return true;
  } catch {
    return false;
  }
}

/** @throws when the owner has forbidden the page to keep anything */
function storeOf(lasts: Lasts): Storage {
  return lasts === "for good" ? localStorage : sessionStorage;
}
