'use client';
import type { ColourSpace } from '@umbo/core/base';
import { wrapHue, type Colour } from '@umbo/core/colour';
import { CENSUS_BINS, measureHue, type HueModel } from '@umbo/core/measure';
import { useRef } from 'react';
import type { LitUp } from '../../workers/protocol';
import { useBench, useSpace } from '../state/context';
import { ToneUnder } from './Hills';
import { RangeSvg } from './RangeSvg';
import { useHandleTrack, type TrackPlace } from './useHandleTrack';
import { together, useLight } from './useLight';
import { moveHueHandle, type HueHandle, type Range } from './hueHandles';

const WIDTH = 320;
const HEIGHT = 96;
const BASE = 76;
const TOP = 8;
/** The hue at the left edge: in the cold greens, where few photographs have much. */
export const CENSUS_START = 190;

const toX = (hue: number): number => (wrapHue(hue - CENSUS_START) / 360) * WIDTH;
const SWATCH: Record<HueModel, (hue: number) => string> = {
  oklch: (hue) => `oklch(0.68 0.13 ${hue})`,
  hsl: (hue) => `hsl(${hue} 60% 55%)`,
};

/** The bars of a hue census, each in its hue. */
function CensusBars({ bins, model, width, base, top }: { bins: Float32Array; model: HueModel; width: number; base: number; top: number }) {
  const peak = Math.max(...bins, 1e-6);
  const step = 360 / CENSUS_BINS;
  return Array.from(bins, (share, i) => {
    const hue = (i + 0.5) * step;
    // A root, so that small amounts can be seen beside large ones.
    const height = Math.sqrt(share / peak) * (base - top);
    const x = (wrapHue(hue - CENSUS_START) / 360) * width - width / CENSUS_BINS / 2;
    return height < 0.3 ? null : (
      <rect key={i} x={x} y={base - height} width={width / CENSUS_BINS + 0.3} height={height} fill={SWATCH[model](hue)} />
    );
  });
}

/** Names along the census: the OKLCh hues of the sRGB primaries and secondaries; yellow and green moved apart for their words. */
export const HUE_NAMES = [
  ['cyan', 195],
  ['blue', 264],
  ['magenta', 328],
  ['red', 29],
  ['yellow', 100],
  ['green', 147],
] as const;

const HSL_NAMES = [
  ['cyan', 191],
  ['blue', 240],
  ['magenta', 300],
  ['red', 0],
  ['yellow', 60],
  ['green', 120],
] as const;

/** The hue of the pixel under the pointer; null where it has none. */
function hueUnder(model: HueModel, space: ColourSpace, colour: Colour): number | null {
  const measured = new Float64Array(3);
  measureHue(model, space, ...colour, measured);
  return measured[1] === 0 ? null : measured[0]! * 360;
}

/** Where a range's four handles stand: their hues and heights; and its outline, moved by a shift to the left. @returns also its right end */
function shapeOf(range: Range) {
  const stops = [
    range.from,
    range.from + range.fadeIn,
    range.from + range.fadeIn + range.span,
    range.from + range.fadeIn + range.span + range.fadeOut,
  ].map(wrapHue) as [number, number, number, number];
  // Unrolled from the left edge, and drawn a second time one turn earlier for what runs over the right one.
  const x0 = toX(range.from);
  const scale = WIDTH / 360;
  const xs = [
    x0,
    x0 + range.fadeIn * scale,
    x0 + (range.fadeIn + range.span) * scale,
    x0 + (range.fadeIn + range.span + range.fadeOut) * scale,
  ];
  const path = (shift: number): string => `M${xs[0]! - shift} ${BASE}L${xs[1]! - shift} ${TOP}H${xs[2]! - shift}L${xs[3]! - shift} ${BASE}`;
  const handles: [HueHandle, number, number][] = [
    ['outer start', stops[0], BASE],
    ['inner start', stops[1], TOP],
    ['inner end', stops[2], TOP],
    ['outer end', stops[3], BASE],
  ];
  return { handles, path, right: xs[3]! };
}

interface Props {
  range: Range;
  /** Whose hues they are; OKLCh when left out. */
  model?: HueModel;
  /** Its name for people who do not see where it stands. */
  label?: string;
  census: Float32Array | null;
  onPreview: (range: Range) => void;
  onCommit: (range: Range) => void;
  /** By which picture hues are lit up while they are pointed at. */
  of?: LitUp['of'];
  /** While a handle is moved, what is caught should show loudly; null: not any longer. */
  onMoving: (range: Range | null) => void;
}

/** Four handles on the photograph's hue census. The range itself can be moved, too. */
export function HueRing({ range, model = 'oklch', label = 'Hue range', census, of = 'below', onPreview, onCommit, onMoving }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const space = useSpace();
  /** The range as it was taken hold of, by which hue, and as it is now. */
  const held = useRef({ begin: 0, range, latest: range });
  const hueAt = ({ x }: TrackPlace): number => wrapHue(CENSUS_START + x * 360);
  const light = useLight(of, model, (share) => wrapHue(CENSUS_START + share * 360) / 360);
  const under = useBench(({ probe }) => (probe?.below ? hueUnder(model, space, probe.below) : null));
  const { grab, track, keys } = useHandleTrack<HueHandle | 'all'>(svg, {
    begin(_handle, at) {
      held.current = { begin: hueAt(at), range, latest: range };
      onMoving(range);
    },
    drag(handle, to) {
      const now = held.current;
      const hue = hueAt(to);
      now.latest =
        handle === 'all' ? { ...now.range, from: wrapHue(now.range.from + hue - now.begin) } : moveHueHandle(now.range, handle, hue);
      onPreview(now.latest);
      onMoving(now.latest);
    },
    drop() {
      onMoving(null);
      onCommit(held.current.latest);
    },
    cancel() {
      onMoving(null);
      onCommit(held.current.range);
    },
    step(handle, right, up) {
      if (handle !== 'all') onCommit(moveHueHandle(range, handle, hueOf(handle) + right + up));
    },
  });

  const { handles, path, right } = shapeOf(range);
  const hueOf = (handle: HueHandle): number => handles.find(([name]) => name === handle)![1];
  return (
    <RangeSvg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      {...together(track, light)}
      role="group"
      aria-label={`${label} on the hue census`}
    >
      <clipPath id="hue-range-area">
        <rect x={0} y={0} width={WIDTH} height={HEIGHT} />
      </clipPath>
      {census && <CensusBars bins={census} model={model} width={WIDTH} base={BASE} top={14} />}
      <line x1={0} x2={WIDTH} y1={BASE} y2={BASE} stroke="var(--ink)" />
      {under !== null && <ToneUnder x={toX(under)} top={TOP} base={BASE} />}
      <g clipPath="url(#hue-range-area)">
        <path className="range" d={path(0)} onPointerDown={grab('all')} data-testid="hue-range" />
        {right > WIDTH && <path className="range" d={path(WIDTH)} onPointerDown={grab('all')} />}
      </g>
      {handles.map(([handle, hue, y]) => (
        <rect
          key={handle}
          className="handle"
          x={toX(hue) - 4}
          y={y - 6}
          width={8}
          height={12}
          rx={2}
          tabIndex={0}
          role="slider"
          aria-label={`${label}, ${handle}`}
          aria-valuemin={0}
          aria-valuemax={360}
          aria-valuenow={Math.round(hue)}
          aria-valuetext={`${Math.round(hue)} degrees`}
          onPointerDown={grab(handle)}
          onKeyDown={keys(handle)}
        />
      ))}
      {(model === 'hsl' ? HSL_NAMES : HUE_NAMES).map(([name, hue]) => (
        <text key={name} x={Math.min(WIDTH - 16, Math.max(10, toX(hue)))} y={HEIGHT - 3} textAnchor="middle">
          {name}
        </text>
      ))}
    </RangeSvg>
  );
}
