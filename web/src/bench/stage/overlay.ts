/** What the tools that lie over the stage share. */
import { project } from '@umbo/core/base';
import styled from 'styled-components';
import type { View } from '../../workers/protocol';
import { stageMapping } from '../../workers/stageMapping';

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
  return onPhotograph([(event.clientX - left) * devicePixelRatio, (event.clientY - top) * devicePixelRatio], view);
}

/** Where a place of the stage, in device pixels, is on the photograph. */
export function onPhotograph([x, y]: Point, view: View): Point {
  return project(stageMapping(view).toPhotograph, x, y);
}

/** Where a point of the photograph is on the stage, in CSS pixels. */
export function stagePoint([x, y]: Point, view: View): Point {
  const [left, top] = project(stageMapping(view).toStage, x, y);
  return [left / devicePixelRatio, top / devicePixelRatio];
}

/** How long a length of the photograph is on the stage, in CSS pixels. */
export const stageLength = (length: number, view: View): number => (length * view.zoom) / devicePixelRatio;

/** A line that is seen on any picture: light on a dark rim. */
export const SEEN = [
  { stroke: '#000', strokeOpacity: 0.6, strokeWidth: 3 },
  { stroke: '#fff', strokeOpacity: 1, strokeWidth: 1.2 },
] as const;
