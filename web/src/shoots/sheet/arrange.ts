/** Which photographs of a shoot are shown, and in which order. */
import type { PhotographState, PhotographSummary } from '@umbo/data';

export const SORTS = [
  ['added', 'As added'],
  ['name', 'Name'],
  ['taken', 'Time taken'],
  ['state', 'State'],
  ['light', 'Light'],
] as const;
export type SortBy = (typeof SORTS)[number][0];

export interface Arrangement {
  filter: 'all' | PhotographState;
  search: string;
  sort: SortBy;
}

const STATES: Record<PhotographState, number> = { untouched: 0, 'in work': 1, done: 2 };
const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** What is not known comes last. */
const compare: Record<SortBy, (a: PhotographSummary, b: PhotographSummary) => number> = {
  added: (a, b) => a.id - b.id,
  name: (a, b) => byName.compare(a.name, b.name),
  taken: (a, b) => Number(a.takenAt === null) - Number(b.takenAt === null) || (a.takenAt ?? '').localeCompare(b.takenAt ?? ''),
  state: (a, b) => STATES[a.state] - STATES[b.state],
  light: (a, b) => (a.light ?? Infinity) - (b.light ?? Infinity) || 0,
};

/** Every word that is searched for is in the name or in what it was taken with. */
const holds = ({ name, takenAt, shotWith }: PhotographSummary, words: readonly string[]): boolean => {
  const text = [name, takenAt, shotWith.camera, shotWith.lens].join(' ').toLowerCase();
  return words.every((word) => text.includes(word));
};

export function arranged(photographs: readonly PhotographSummary[], { filter, search, sort }: Arrangement): PhotographSummary[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return photographs
    .filter((one) => (filter === 'all' || one.state === filter) && holds(one, words))
    .sort((a, b) => compare[sort](a, b) || a.id - b.id);
}

/** Such as "14 Mar 2026, 15:09 · Kiln 4 · 1/125 s · f/2.8 · ISO 400 · 85 mm". */
export function cameraWords({ takenAt, shotWith: { camera, lens, exposure, aperture, iso, focal } }: PhotographSummary): string {
  const time =
    takenAt &&
    new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short', timeZone: 'UTC' }).format(new Date(`${takenAt}Z`));
  const seconds = exposure && (exposure < 0.4 ? `1/${Math.round(1 / exposure)} s` : `${Number(exposure.toFixed(1))} s`);
  return [time, camera, lens, seconds, aperture && `f/${aperture}`, iso && `ISO ${iso}`, focal && `${Math.round(focal)} mm`]
    .filter(Boolean)
    .join(' · ');
}
