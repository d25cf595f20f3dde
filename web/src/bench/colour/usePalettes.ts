'use client';
/** The palettes of a shoot, as all its photographs share them: kept in sRGB, and here in the working space. */
import { unit, type ColourSpace } from '@umbo/core/base';
import { colourBetween, srgb, type Colour } from '@umbo/core/colour';
import type { NewSwatch, Palette, Swatch } from '@umbo/data';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { request, requestOnce } from '@/ui/request';
import { useSpace } from '../state/context';

export interface Palettes {
  /** Null until they are read. */
  list: readonly Palette[] | null;
  problem: string | null;
  /** @returns the new palette; null when there is none */
  create: (name: string, swatches: NewSwatch[]) => Promise<Palette | null>;
  rename: (id: number, name: string) => Promise<void>;
  remove: (id: number) => Promise<void>;
  /** @returns the new swatch; null when there is none */
  addSwatch: (paletteId: number, name: string, colour: Colour) => Promise<Swatch | null>;
  renameSwatch: (id: number, name: string) => Promise<void>;
  removeSwatch: (id: number) => Promise<void>;
}

const inSpace = (palette: Palette, space: ColourSpace): Palette => ({
  ...palette,
  swatches: palette.swatches.map((swatch) => ({ ...swatch, colour: colourBetween(srgb, space, swatch.colour).map(unit) as Colour })),
});

export function usePalettes(shootId: number): Palettes {
  const space = useSpace();
  const [kept, setList] = useState<readonly Palette[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** Does something and reads anew: another window may have changed them as well. */
  const then = useCallback(
    async (work?: () => Promise<unknown>): Promise<void> => {
      try {
        await work?.();
        setList(await request<Palette[]>('GET', `/api/shoots/${shootId}/palettes`));
        setProblem(null);
      } catch (error) {
        setProblem((error as Error).message);
      }
    },
    [shootId],
  );
  const made = async <T>(work: () => Promise<T>): Promise<T | null> => {
    let result: T | null = null;
    await then(async () => {
      result = await work();
    });
    return result;
  };
  useEffect(() => void then(), [then]);
  const toKeep = (colour: Colour): Colour => colourBetween(space, srgb, colour).map(unit) as Colour;
  const list = useMemo(() => kept && kept.map((palette) => inSpace(palette, space)), [kept, space]);
  return {
    list,
    problem,
    create: (name, swatches) =>
      made(() =>
        requestOnce<Palette>(`/api/shoots/${shootId}/palettes`, {
          name,
          swatches: swatches.map((one) => ({ ...one, colour: toKeep(one.colour) })),
        }),
      ),
    rename: (id, name) => then(() => request('PATCH', `/api/palettes/${id}`, { name })),
    remove: (id) => then(() => request('DELETE', `/api/palettes/${id}`)),
    addSwatch: (id, name, colour) => made(() => requestOnce<Swatch>(`/api/palettes/${id}/swatches`, { name, colour: toKeep(colour) })),
    renameSwatch: (id, name) => then(() => request('PATCH', `/api/swatches/${id}`, { name })),
    removeSwatch: (id) => then(() => request('DELETE', `/api/swatches/${id}`)),
  };
}
