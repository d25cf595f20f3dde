import { useBench } from '../state/context';
import { strokesAreSeeds } from '../state/strokes';
import { stageLength } from './overlay';
import { SEED_SIZE } from './SeedStrokes';

/** What the brush would paint, at the pointer. */
export function BrushRing({ at: { x, y } }: { at: { x: number; y: number } }) {
  const { size, hardness } = useBench((state) => state.brush);
  const view = useBench((state) => state.view);
  const erases = useBench((state) => state.tool === 'erase');
  const seeds = useBench(strokesAreSeeds);
  const radius = seeds ? SEED_SIZE / 2 : stageLength(size / 2, view);
  const seen = Math.max(1.5, radius);
  return (
    <svg className="ring" aria-hidden>
      <circle cx={x} cy={y} r={seen} fill="none" stroke="#000" strokeOpacity={0.6} strokeWidth={2.5} />
      <circle cx={x} cy={y} r={seen} fill="none" stroke="#fff" strokeWidth={1} />
      {!seeds && hardness > 0.02 && hardness < 0.98 && radius > 6 && (
        <circle cx={x} cy={y} r={radius * hardness} fill="none" stroke="#fff" strokeWidth={0.8} strokeDasharray="3 3" />
      )}
      {erases && <path d={`M${x - 4} ${y}h8`} stroke="#fff" strokeWidth={1.5} />}
    </svg>
  );
}
