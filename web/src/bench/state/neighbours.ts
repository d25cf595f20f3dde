/** The photographs before and after this one in the shoot, and taking one's place along to them. */
import { walkFrom } from '@/ui/chosen';
import { pictureFraming } from '@umbo/core/document';
import type { View } from '../../workers/protocol';
import type { BenchState } from './benchState';

export function neighbours({ photograph, shoot }: Pick<BenchState, 'photograph' | 'shoot'>): {
  previous: number | null;
  next: number | null;
} {
  const here = [photograph, ...shoot.photographs].map(({ id }) => id).sort((a, b) => a - b);
  // Those that were chosen on the contact sheet, in its order; without one, all of them as they were added.
  const walk = walkFrom(shoot.id, photograph.id).filter((id) => here.includes(id));
  const ids = walk.includes(photograph.id) ? walk : here;
  const at = ids.indexOf(photograph.id);
  return { previous: ids[at - 1] ?? null, next: ids[at + 1] ?? null };
}

const KEY = 'umbo-place';

/** Zoom, and which place of the photograph is in the middle of the stage, as shares of its sides. */
interface Place {
  zoom: number;
  x: number;
  y: number;
}

/** Keeps the place for the photograph that is opened next; one that is fitted to the stage is so there, too. */
export function keepPlace({ view, fitted, photograph }: BenchState, stage: { width: number; height: number }): void {
  if (fitted) return sessionStorage.removeItem(KEY);
  const { width, height } = view.framing?.size ?? photograph;
  const x = (stage.width / 2 - view.x) / view.zoom / width;
  const y = (stage.height / 2 - view.y) / view.zoom / height;
  sessionStorage.setItem(KEY, JSON.stringify({ zoom: view.zoom, x, y } satisfies Place));
}

/** The view of the place that was kept; null where there is none. It is taken once. */
export function keptPlace({ photograph, document }: BenchState, stage: { width: number; height: number }): View | null {
  const kept = sessionStorage.getItem(KEY);
  sessionStorage.removeItem(KEY);
  try {
    const { zoom, x, y } = JSON.parse(kept ?? '') as Place;
    const { width, height } = pictureFraming(document)?.size ?? photograph;
    const view = { zoom, x: stage.width / 2 - x * width * zoom, y: stage.height / 2 - y * height * zoom };
    return Object.values(view).every(Number.isFinite) && zoom > 0 ? view : null;
  } catch {
    return null;
  }
}
