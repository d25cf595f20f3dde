'use client';
import type { Rect } from '@umbo/core/base';
import { useBench } from '../state/context';
import { foundFor, outlined } from '../state/health';
import { SEEN, stageLength, stagePoint } from './overlay';

/** Marks nearer to each other than this on the screen are outlined together. */
const NEAR = 14;

/** What was found, outlined on the photograph: marks in full lines, holes in dashes, hard edges in dots. */
export function HealthMarks() {
  const view = useBench((state) => state.view);
  const found = useBench((state) => (state.health?.layerId === state.layerId ? foundFor(state) : null));
  if (!found) return null;
  const near = NEAR / stageLength(1, view);
  const boxes = (rects: readonly Rect[], dashes: string | undefined, around: number) =>
    outlined(rects, near).shown.map(({ x, y, width, height }, i) => {
      const [left, top] = stagePoint([x, y], view);
      const [right, bottom] = stagePoint([x + width, y + height], view);
      return SEEN.map((line, k) => (
        <rect
          key={`${i} ${k}`}
          x={left - around}
          y={top - around}
          width={right - left + 2 * around}
          height={bottom - top + 2 * around}
          rx={2}
          fill="none"
          strokeDasharray={dashes}
          {...line}
        />
      ));
    });
  return (
    <svg className="ring" aria-hidden data-testid="health-marks">
      {boxes(found.stray, undefined, 3)}
      {boxes(found.pinholes, '3 2', 3)}
      {boxes(found.hard, '1 4', 1)}
    </svg>
  );
}
