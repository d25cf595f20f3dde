/** When a photograph was taken and with what, from its EXIF. */
import readExif from 'exif-reader';
import { cleanName, shorten } from '@umbo/core/base';

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

const words = (part: unknown): string => (typeof part === 'string' ? shorten(cleanName(part.replaceAll('\0', ' ')), 100) : '');
/** Cameras name their maker twice, or not at all. */
const cameraOf = (make: string, model: string): string => (model.startsWith(make) ? model : `${make} ${model}`.trim());
const positive = (value: unknown): number | undefined => {
  const [v] = Array.isArray(value) ? (value as unknown[]) : [value];
  return typeof v === 'number' && Number.isFinite(v) && v > 0 && v < 1e6 ? v : undefined;
};

/** @param exif the block as files hold it; what is damaged in it counts as not there */
export function takenOf(exif: Buffer | undefined): Taken {
  if (!exif) return { takenAt: null, shotWith: {} };
  try {
    const { Image, Photo } = readExif(exif);
    const [taken] = [Photo?.DateTimeOriginal, Photo?.DateTimeDigitized, Image?.DateTime].filter((date) => date instanceof Date);
    const facts: Record<keyof CameraFacts, string | number | undefined> = {
      camera: cameraOf(words(Image?.Make), words(Image?.Model)) || undefined,
      lens: words(Photo?.LensModel) || undefined,
      exposure: positive(Photo?.ExposureTime),
      aperture: positive(Photo?.FNumber),
      iso: positive(Photo?.ISOSpeedRatings),
      focal: positive(Photo?.FocalLength),
    };
    return {
      takenAt: taken && taken.getTime() > 0 && taken.getUTCFullYear() < 3000 ? taken : null,
      shotWith: Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined)) as CameraFacts,
    };
  } catch {
    return { takenAt: null, shotWith: {} };
  }
}
