import { ZoomIn, ZoomOut } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button } from "../kit/Button.tsx";
import { useNarrow } from "../kit/useMedia.ts";

/**
 * A drawing that fills its sheet; on a phone it is large enough to be read and scrolls, or is seen whole.
 * @param zoom how often as wide as its sheet
 */
export function ScaledDrawing({
  className = "",
  zoom = 1,
  children,
}: {
  className?: string;
  zoom?: number;
  children: ReactNode;
}) {
  const narrow = useNarrow();
  const [whole, setWhole] = useState(false);
  const Icon = whole ? ZoomIn : ZoomOut;
  return (
    <>
      <div className={`overflow-x-auto ${className}`} data-whole={whole || undefined}>
        {zoom === 1 ? children : <div style={{ width: `${zoom * 100}%` }}>{children}</div>}
      </div>
      {narrow && (
        <div className="border-t border-rule p-1.5">
          <Button size="small" onClick={() => setWhole(!whole)}>
            <Icon size={14} aria-hidden="true" /> {whole ? "Large enough to read" : "The whole drawing"}
          </Button>
        </div>
      )}
    </>
  );
}
