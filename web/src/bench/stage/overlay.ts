/** What the tools that lie over the stage share. */
import styled from 'styled-components';
import type { View } from '../../workers/protocol';

/** Takes the pointer over the whole of the stage. */
export const Overlay = styled.div`
  position: absolute;
  inset: 0;
  touch-action: none;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }
`;

export type Point = [number, number];

/** Where a pointer is on the photograph. */
export function photoPoint(event: { clientX: number; clientY: number }, box: HTMLElement, view: View): Point {
  const { left, top } = box.getBoundingClientRect();
  return [
    ((event.clientX - left) * devicePixelRatio - view.x) / view.zoom,
    ((event.clientY - top) * devicePixelRatio - view.y) / view.zoom,
  ];
}

/** Where a point of the photograph is on the stage, in CSS pixels. */
export const stagePoint = ([x, y]: Point, view: View): Point => [
  (view.x + x * view.zoom) / devicePixelRatio,
  (view.y + y * view.zoom) / devicePixelRatio,
];

/** A line that is seen on any picture: light on a dark rim. */
export const SEEN = [
  { stroke: '#000', strokeOpacity: 0.6, strokeWidth: 3 },
  { stroke: '#fff', strokeOpacity: 1, strokeWidth: 1.2 },
] as const;
