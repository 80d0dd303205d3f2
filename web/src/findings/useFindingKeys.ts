import { type RefObject, useEffect } from "react";

/** `]` goes to the next finding within an element, `[` to the one before; at the ends it stays. */
export function useFindingKeys(within: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const step = event.key === "]" ? 1 : event.key === "[" ? -1 : 0;
      const typing = event.target instanceof HTMLElement && event.target.closest("input, textarea, select");
      if (step === 0 || typing || event.ctrlKey || event.metaKey) return;
      const cards = [...(within.current?.querySelectorAll<HTMLElement>("article.finding") ?? [])];
      const at = cards.findIndex((card) => card.contains(document.activeElement));
      const next = cards[at < 0 ? (step > 0 ? 0 : cards.length - 1) : at + step];
      if (!next) return;
      event.preventDefault();
      next.focus();
      next.scrollIntoView({ block: "nearest" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [within]);
}
