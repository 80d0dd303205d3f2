import type { RailwayRecord } from "@alderman/core";
import type { RefObject } from "react";
import { drawnAt, textOf } from "./shapes.ts";
import { type Camera, type Extent, STEP } from "./useCamera.ts";

const WIDTH = 168;

/** All of a large line, small, with what of it is in sight. */
export function MiniMap({
  record,
  extent,
  camera,
  svg,
}: {
  record: RailwayRecord;
  extent: Extent;
  camera: Camera;
  svg: RefObject<SVGSVGElement | null>;
}) {
  const [wide, high] = [(extent.right - extent.left + 2) * STEP, (extent.bottom - extent.top + 2) * STEP];
  const [left, top] = [(extent.left - 1) * STEP, (extent.top - 1) * STEP];
  const { clientWidth = 0, clientHeight = 0 } = svg.current ?? {};
  return (
    <svg
      width={WIDTH}
      height={Math.min(120, Math.max(24, (WIDTH * high) / wide))}
      viewBox={`${left} ${top} ${wide} ${high}`}
      aria-hidden="true"
      className="pointer-events-none absolute right-2 bottom-9 border border-rule bg-sheet"
    >
      {record.tracks.map(({ id, points }) => (
        <polyline
          key={id}
          points={textOf(points.map(drawnAt))}
          fill="none"
          stroke="var(--ink-2)"
          strokeWidth={wide / 300}
        />
      ))}
      <rect
        x={-camera.x / camera.scale}
        y={-camera.y / camera.scale}
        width={clientWidth / camera.scale}
        height={clientHeight / camera.scale}
        fill="none"
        stroke="var(--copper)"
        strokeWidth={wide / 120}
      />
    </svg>
  );
}
