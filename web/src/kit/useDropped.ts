import { autoUpdate, flip, size, useFloating } from "@floating-ui/react-dom";

/** Least height in which a list is of use, pixels. */
const LEAST = 120;
/** Height of a list, at most. */
const MOST = 240;

/** Where a list stands that drops from a field: below it, or above where there is more room; cut off by nothing around it. */
export function useDropped(open: boolean) {
  const { refs, floatingStyles } = useFloating({
    open,
    strategy: "fixed",
    placement: "bottom-start",
    whileElementsMounted: autoUpdate,
    middleware: [
      flip({ padding: 8 }),
      size({
        padding: 8,
        apply: ({ availableHeight, elements, rects }) => {
          elements.floating.style.maxHeight = `${Math.max(LEAST, Math.min(MOST, availableHeight))}px`;
          elements.floating.style.minWidth = `${rects.reference.width}px`;
        },
      }),
    ],
  });
  return { setField: refs.setReference, setList: refs.setFloating, style: floatingStyles };
}
