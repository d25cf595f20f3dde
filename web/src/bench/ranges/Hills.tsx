'use client';
import { driverOf, type Driver } from '@umbo/core/adjust';
import { useBench, useSpace } from '../state/context';

/** What a layer's mask lets in of the picture below it, by what drives a curve or a map; and the tone under the pointer, 0..1. */
export function useTones(layerId: string, driver: Driver): { bins: Float32Array | null; under: number | null } {
  const bins = useBench(({ region }) => (region?.layerId === layerId ? region.histogram[driver] : null));
  const below = useBench(({ probe }) => probe?.below ?? null);
  const space = useSpace();
  return { bins, under: below && Math.max(0, Math.min(1, driverOf(space, driver, below))) };
}

interface Props {
  /** Shares of the pixels, from black to white. */
  bins: Float32Array | null;
  width: number;
  base: number;
  height: number;
}

/** A histogram in an SVG: shares as their square roots, so that small ones are seen. */
export function Hills({ bins, width, base, height }: Props) {
  if (!bins) return null;
  const peak = Math.sqrt(Math.max(1e-6, ...bins));
  const step = width / bins.length;
  const top = (share: number): string => (base - (Math.sqrt(share) / peak) * height).toFixed(1);
  const line = Array.from(bins, (share, i) => `L${((i + 0.5) * step).toFixed(1)} ${top(share)}`).join('');
  return <path d={`M0 ${base}${line}L${width} ${base}Z`} fill="var(--ink2)" fillOpacity={0.4} />;
}

/** Where the tone under the pointer lies, in an SVG. */
export function ToneUnder({ x, top, base }: { x: number; top: number; base: number }) {
  return (
    <path d={`M${x} ${base}V${top}`} stroke="var(--ink)" strokeDasharray="2 2" pointerEvents="none" data-testid="tone-under-pointer" />
  );
}
