import { select } from "d3-selection";
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from "d3-zoom";
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";

/** Size of a step of the lattice at scale 1, pixels. */
export const STEP = 28;
const SCALES: [number, number] = [0.15, 4];
/** Room that is left around all of the line when it is fitted in, pixels. */
const MARGIN = 72;

/** What part of the plane is seen, and how large: pixels = scale x place + shift. */
export interface Camera {
  scale: number;
  x: number;
  y: number;
}

/** The points of all that is drawn, in steps. */
export interface Extent {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * Pans and zooms a drawing: by wheel, by two fingers, by the middle button or with Space held, and by what its caller asks.
 * @param extent what is fitted in at first
 */
export function useCamera(target: RefObject<SVGSVGElement | null>, extent: Extent) {
  const [camera, setCamera] = useState<Camera>({ scale: 1, x: MARGIN, y: MARGIN });
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown> | null>(null);
  const held = useRef(false);

  useEffect(() => {
    const element = target.current;
    if (!element) return;
    const made = zoom<SVGSVGElement, unknown>()
      .scaleExtent(SCALES)
      .filter((event: MouseEvent | WheelEvent | TouchEvent) => {
        if (event.type === "wheel") return true;
        if ("touches" in event) return event.touches.length > 1;
        return "button" in event && (event.button === 1 || (event.button === 0 && held.current));
      })
      .on("zoom", ({ transform: { k, x, y } }: { transform: ZoomTransform }) => setCamera({ scale: k, x, y }));
    behaviour.current = made;
    const selection = select(element);
    selection.call(made).on("dblclick.zoom", null);
    const onKey = (event: KeyboardEvent) => {
      if (event.code === "Space") held.current = event.type === "keydown" && event.target === element;
    };
    window.addEventListener("keydown", onKey);
    window.addEventListener("keyup", onKey);
    return () => {
      selection.on(".zoom", null);
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("keyup", onKey);
    };
  }, [target]);

  const zoomBy = useCallback(
    (factor: number) => {
      if (target.current && behaviour.current) behaviour.current.scaleBy(select(target.current), factor);
    },
    [target],
  );
  const panBy = useCallback(
    (dx: number, dy: number) => {
      if (!target.current || !behaviour.current) return;
      behaviour.current.translateBy(select(target.current), dx / camera.scale, dy / camera.scale);
    },
    [target, camera.scale],
  );
  const fit = useCallback(() => {
    const element = target.current;
    if (!element || !behaviour.current) return;
    const { width, height } = element.getBoundingClientRect();
    const wide = Math.max(1, extent.right - extent.left) * STEP;
    const high = Math.max(1, extent.bottom - extent.top) * STEP;
    const scale = Math.min(1.4, (width - 2 * MARGIN) / wide, (height - 2 * MARGIN) / high);
    const k = Math.max(SCALES[0], scale);
    const x = (width - wide * k) / 2 - extent.left * STEP * k;
    const y = (height - high * k) / 2 - extent.top * STEP * k;
    behaviour.current.transform(select(element), zoomIdentity.translate(x, y).scale(k));
  }, [target, extent.left, extent.right, extent.top, extent.bottom]);
  return { camera, zoomBy, panBy, fit };
}
