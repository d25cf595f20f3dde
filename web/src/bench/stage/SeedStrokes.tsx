'use client';
import { findMaskOwner } from '@umbo/core/document';
import { findPart, type GrownPart, type Stroke } from '@umbo/core/mask';
import type { View } from '../../workers/protocol';
import { useBench } from '../state/context';
import { strokesAreSeeds } from '../state/strokes';
import { SEEN, stageLength, stagePoint } from './overlay';

/** How wide strokes are on the screen, in CSS pixels: whoever zooms in draws more finely. */
export const SEED_SIZE = 10;
/** And on the photograph, as far as a stroke can be thin. */
export const seedSize = (view: View): number => Math.max(0.5, SEED_SIZE / stageLength(1, view));

const NONE: readonly Stroke[] = [];

/** The strokes from which the part in work grows: those inside in full lines, those outside in dashes. @param drawing the one being drawn */
export function SeedStrokes({ drawing }: { drawing: Stroke | null }) {
  const view = useBench((state) => state.view);
  const strokes = useBench((state) => {
    const owner = strokesAreSeeds(state) ? findMaskOwner(state.document, state.layerId) : undefined;
    return (owner && (findPart(owner.where, state.partId) as GrownPart | undefined)?.strokes) ?? NONE;
  });
  const shown = drawing ? [...strokes, drawing] : strokes;
  if (shown.length === 0) return null;
  return (
    <svg className="ring" aria-hidden data-testid="seed-strokes" fill="none" strokeLinecap="round" strokeLinejoin="round">
      {shown.map(({ id, points, size, erase }) => {
        const path = Array.from({ length: points.length / 3 }, (_, i) => stagePoint([points[3 * i]!, points[3 * i + 1]!], view).join());
        const d = `M${path.join('L')}${path.length === 1 ? 'h0.01' : ''}`;
        return (
          <g key={id}>
            <path d={d} stroke={erase ? '#000' : '#fff'} strokeOpacity={0.35} strokeWidth={stageLength(size, view)} />
            {SEEN.map((line) => (
              <path key={line.stroke} d={d} {...line} strokeDasharray={erase ? '5 5' : undefined} />
            ))}
          </g>
        );
      })}
    </svg>
  );
}
