/** When a photograph was taken and with what, from its EXIF. */
import { cleanName, shorten } from '@umbo/core/base';
import { exifValues } from './exifValues.ts';

export interface CameraFacts {
  camera?: string;
  lens?: string;
  /** Seconds. */
  exposure?: number;
  /** The number N of f/N. */
  aperture?: number;
  iso?: number;
  /** Millimetres. */
  focal?: number;
}

export interface Taken {
  /** As the camera's clock showed it, without a zone: written as if it were UTC. */
  takenAt: Date | null;
  shotWith: CameraFacts;
}

/** Tags of CIPA DC-008 (Exif 2.32), sections 4.6.4 and 4.6.5. */
const TAG = {
  make: 0x010f,
  model: 0x0110,
  changed: 0x0132,
  exposure: 0x829a,
  aperture: 0x829d,
  iso: 0x8827,
  taken: 0x9003,
  digitised: 0x9004,
  focal: 0x920a,
  lens: 0xa434,
} as const;

const words = (value: unknown): string => (typeof value === 'string' ? shorten(cleanName(value), 100) : '');
/** Cameras name their maker twice, or not at all. */
const cameraOf = (make: string, model: string): string => (model.startsWith(make) ? model : `${make} ${model}`.trim());
const positive = (v: unknown): number | undefined => (typeof v === 'number' && Number.isFinite(v) && v > 0 && v < 1e6 ? v : undefined);

/** "2026:03:14 15:09:26", as if it were UTC. */
function dateOf(value: unknown): Date | null {
  const parts = typeof value === 'string' ? /^(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)/.exec(value) : null;
  if (!parts) return null;
  const [year, month, day, hour, minute, second] = parts.slice(1).map(Number) as [number, number, number, number, number, number];
  const date = new Date(Date.UTC(year, month - 1, day, hour, minute, second));
  // What runs over, such as the 40th of a month, is no date.
  return date.getTime() > 0 && year < 3000 && date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? date : null;
}

/** @param exif the block as files hold it; what is damaged in it counts as not there */
export function takenOf(exif: Buffer | undefined): Taken {
  if (!exif) return { takenAt: null, shotWith: {} };
  const values = exifValues(exif, new Set(Object.values(TAG)));
  const of = (name: keyof typeof TAG): string | number | undefined => values.get(TAG[name]);
  const facts: Record<keyof CameraFacts, string | number | undefined> = {
    camera: cameraOf(words(of('make')), words(of('model'))) || undefined,
    lens: words(of('lens')) || undefined,
    exposure: positive(of('exposure')),
    aperture: positive(of('aperture')),
    iso: positive(of('iso')),
    focal: positive(of('focal')),
  };
  return {
    takenAt: dateOf(of('taken')) ?? dateOf(of('digitised')) ?? dateOf(of('changed')),
    shotWith: Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined)) as CameraFacts,
  };
}
