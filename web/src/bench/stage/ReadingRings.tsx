'use client';
import { project } from '@umbo/core/base';
import { pictureFraming, type Reading, type UmboDocument } from '@umbo/core/document';
import { maskPartKind, type MaskPart } from '@umbo/core/mask';
import styled from 'styled-components';
import { besideShift, type MaskThumbnail, type View } from '../../workers/protocol';
import { useBench } from '../state/context';
import { SEEN, stageLength, stagePoint, type Point } from './overlay';

const Rings = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  text {
    font: 650 10px/1 var(--sans);
    text-anchor: middle;
    dominant-baseline: central;
  }
`;
const NONE: readonly Reading[] = [];
/** The ring of a spot is at least this wide, so that it is seen; the letter stands above what is read. */
const LEAST = 5;
const LETTER = 13;

interface Mark {
  /** Where the letter's line begins, on the photograph. */
  readonly at: Point;
  readonly ring?: { rx: number; ry: number; turn: number };
  readonly shape?: readonly number[];
}

/** Where a reading is on the photograph. @param edit whose picture the mask is a small one of */
export function markOf({ spot, where }: Reading, edit: UmboDocument, mask: MaskThumbnail | null): Mark | null {
  if (spot) return { at: [spot.x, spot.y], ring: { rx: spot.side / 2, ry: spot.side / 2, turn: 0 } };
  const [part] = where?.parts ?? [];
  const drawn = part && where!.link === undefined ? drawnMark(part) : null;
  if (drawn || !mask) return drawn;
  const framing = pictureFraming(edit);
  const middle = middleOf(mask, framing?.size ?? edit.photo);
  return { at: framing ? project(framing.toPhotograph, ...middle) : middle };
}

function drawnMark(part: MaskPart): Mark | null {
  if (part.kind === 'ellipse') return { at: [part.x, part.y], ring: { rx: part.rx, ry: part.ry, turn: part.rotate } };
  const area = part.kind === 'outline' ? maskPartKind<MaskPart>(part.kind).changedArea(part, part) : null;
  return area && part.kind === 'outline' ? { at: [area.x + area.width / 2, area.y + area.height / 2], shape: part.shapes[0]! } : null;
}

/** The middle of what a mask lets in; of several pieces, the pixel of the mask nearest to that. */
function middleOf({ width, height, values }: MaskThumbnail, full: { width: number; height: number }): Point {
  let [x, y, sum] = [0, 0, 0];
  for (let i = 0; i < values.length; i++) {
    x += values[i]! * (i % width);
    y += values[i]! * Math.floor(i / width);
    sum += values[i]!;
  }
  if (sum === 0) return [full.width / 2, full.height / 2];
  let best = { far: Infinity, i: 0 };
  for (let i = 0; i < values.length; i++) {
    const far = values[i]! > 0.5 ? ((i % width) - x / sum) ** 2 + (Math.floor(i / width) - y / sum) ** 2 : Infinity;
    if (far < best.far) best = { far, i };
  }
  return [((best.i % width) + 0.5) * (full.width / width), (Math.floor(best.i / width) + 0.5) * (full.height / height)];
}

/** The readings on the photograph, on both pictures where two are beside each other. */
export function ReadingRings() {
  const readings = useBench((state) => state.document.readings ?? NONE);
  const isBeside = useBench((state) => state.look.compare === 'beside');
  const width = useBench((state) => state.stageWidth);
  if (readings.length === 0) return null;
  const by = isBeside ? besideShift(width) / devicePixelRatio : 0;
  const half = width / devicePixelRatio / 2;
  return (
    <Rings aria-hidden data-testid="reading-rings">
      {(isBeside
        ? ([
            [-by, 0],
            [by, half],
          ] as const)
        : ([[0, null]] as const)
      ).map(([shift, from]) =>
        // prettier-ignore
        <svg key={shift} x={from ?? 0} y={0} width={from === null ? '100%' : half} height="100%" style={{ overflow: 'hidden' }}>
          <g transform={`translate(${shift - (from ?? 0)} 0)`}>
            {readings.map((reading) => (
              <Ring key={reading.id} reading={reading} />
            ))}
          </g>
        </svg>,
      )}
    </Rings>
  );
}

function Ring({ reading }: { reading: Reading }) {
  const view = useBench((state) => state.view);
  const edit = useBench((state) => state.document);
  const mask = useBench((state) => (reading.where ? (state.thumbnails.masks.get(reading.id) ?? null) : null));
  const lit = useBench(({ litReading, readingId }) => litReading === reading.id || (litReading === null && readingId === reading.id));
  const mark = markOf(reading, edit, mask);
  if (!mark || !isInPicture(mark.at, view)) return null;
  const [x, y] = stagePoint(mark.at, view);
  const ring = mark.ring && ringOnStage(mark.at, mark.ring, view);
  const path = mark.shape && pathOf(mark.shape, (point) => stagePoint(point, view));
  const letter = letterAt(mark, reading, view);
  return (
    <g data-reading={reading.letter} data-lit={lit}>
      {SEEN.map((line) => (
        <g key={line.stroke} {...line} strokeWidth={line.strokeWidth + (lit ? 0.8 : 0)} fill="none">
          {ring && <ellipse cx={x} cy={y} rx={ring.rx} ry={ring.ry} transform={`rotate(${ring.turn} ${x} ${y})`} />}
          {path && <path d={path} />}
        </g>
      ))}
      <circle cx={letter[0]} cy={letter[1]} r={8} fill={lit ? '#fff' : '#191919'} stroke={lit ? '#191919' : '#fff'} strokeWidth={1.2} />
      <text x={letter[0]} y={letter[1] + 0.5} fill={lit ? '#191919' : '#fff'}>
        {reading.letter}
      </text>
    </g>
  );
}

/** An ellipse of the photograph as it lies on the stage, about as it does about its middle. */
function ringOnStage([x, y]: Point, { rx, ry, turn }: NonNullable<Mark['ring']>, view: View): NonNullable<Mark['ring']> {
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const middle = stagePoint([x, y], view);
  const from = (point: Point): Point => {
    const [px, py] = stagePoint(point, view);
    return [px - middle[0], py - middle[1]];
  };
  const across = from([x + rx * cos, y + rx * sin]);
  const down = from([x - ry * sin, y + ry * cos]);
  return {
    rx: Math.max(LEAST, Math.hypot(...across)),
    ry: Math.max(LEAST, Math.hypot(...down)),
    turn: (Math.atan2(across[1], across[0]) * 180) / Math.PI,
  };
}

/** Whether a place of the photograph is in the picture that is cut from it. */
function isInPicture([x, y]: Point, { framing }: View): boolean {
  if (!framing) return true;
  const [px, py] = project(framing.toPicture, x, y);
  return px >= 0 && py >= 0 && px < framing.size.width && py < framing.size.height;
}

const pathOf = (flat: readonly number[], place: (point: Point) => Point): string => {
  let path = '';
  for (let i = 0; i < flat.length; i += 2) {
    const [x, y] = place([flat[i]!, flat[i + 1]!]);
    path += `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`;
  }
  return `${path}Z`;
};

/** Where a reading's letter stands on the stage, in CSS pixels: above a spot, in the middle of an area. */
export function letterAt({ at, ring }: Mark, { spot }: Reading, view: View): Point {
  const [x, y] = stagePoint(at, view);
  return spot && ring ? [x, y - LETTER - Math.min(Math.max(LEAST, stageLength(ring.ry, view)), 60)] : [x, y];
}
