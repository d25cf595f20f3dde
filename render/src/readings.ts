/** What the readings of an edit are, for a sheet: from the same pixels as on the bench. */
import { isEmpty, levelSize, type Pictures, type Raster, type Rect, type Size } from '@umbo/core/base';
import { deltaE2000, rgbToLab, spaceOf, type Lab } from '@umbo/core/colour';
import { scaleOf, targetReading, TOLERANCE, type Reading, type UmboDocument } from '@umbo/core/document';
import { neededArea } from '@umbo/core/render';
import { read, readingPlace } from '@umbo/core/solve';
import type { ReadingFact } from '@umbo/data';

interface Known {
  readonly before: Lab;
  readonly after: Lab;
}

/** @param pixels reads an area of a level of the photograph */
export function readingFacts(
  document: UmboDocument,
  full: Size,
  pictures: Pictures,
  pixels: (level: number, size: Size, area: Rect) => Raster,
): ReadingFact[] {
  const { readings = [] } = document;
  const known = new Map<string, Known>();
  for (const reading of readings) {
    const { level, area } = readingPlace(reading, full);
    if (isEmpty(area)) continue;
    const size = levelSize(full, level);
    const scale = scaleOf(document, size);
    const photograph = pixels(level, size, neededArea(document, scale, area));
    const { before, after } = read(document, reading, null, { scale, area, photograph, pictures });
    const labOf = (mean: readonly [number, number, number]): Lab => rgbToLab(spaceOf(scale), ...mean);
    if (before && after) known.set(reading.id, { before: labOf(before.mean), after: labOf(after.mean) });
  }
  return readings.flatMap((reading): ReadingFact[] => {
    const is = known.get(reading.id);
    if (!is) return [];
    const to = targetOf(reading, readings, known);
    const off = to && deltaE2000(to, is.after);
    const passes = off === null ? null : off <= (reading.tolerance ?? TOLERANCE);
    return [{ letter: reading.letter, name: reading.name, lab: is.after, off, passes }];
  });
}

/** What a reading is to become; null where that is nothing, or not on the photograph. */
function targetOf(reading: Reading, readings: readonly Reading[], known: ReadonlyMap<string, Known>): Lab | null {
  const { target, id } = reading;
  if (!target) return null;
  if (target.kind === 'colour') return target.lab;
  const { l } = known.get(id)!.before;
  if (target.kind === 'neutral') return { l, a: 0, b: 0 };
  const other = known.get(targetReading(readings, reading)?.id ?? '')?.after ?? null;
  return other && target.keepsLight ? { ...other, l } : other;
}
