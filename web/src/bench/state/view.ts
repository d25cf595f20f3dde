/** Where the photograph lies on the stage. */
import { clamp, union, type Framing, type Rect } from '@umbo/core/base';
import { pictureFraming } from '@umbo/core/document';
import { cropOf, framingOf, isWithin, noGeometry, outlineOnPlane } from '@umbo/core/geometry';
import type { BenchState } from './benchState';
import type { View } from '../../workers/protocol';

interface Area {
  width: number;
  height: number;
}

/** What the tool bar and the strip over it take of the stage, in CSS pixels. */
const TOOLS_HEIGHT = 72;
/** What is left around the photograph, in CSS pixels. */
const MARGIN = 8;

/** The view that shows all of the photograph with a margin, never larger than 100 %. @param columns how many such pictures share the stage's width */
export function fit(photograph: Area, stage: Area, columns = 1): View {
  const perPixel = globalThis.devicePixelRatio || 1;
  const margin = MARGIN * perPixel;
  // The tools lie over the lower edge.
  const height = stage.height - TOOLS_HEIGHT * perPixel;
  const zoom = Math.min(
    1,
    Math.max(0.01, Math.min((stage.width / columns - 2 * margin) / photograph.width, (height - 2 * margin) / photograph.height)),
  );
  return { zoom, x: Math.round((stage.width - photograph.width * zoom) / 2), y: Math.round((height - photograph.height * zoom) / 2) };
}

/** Another zoom about a point of the stage that stays where it is. */
export function zoomAbout(view: View, zoom: number, x: number, y: number): View {
  const next = Math.max(0.02, Math.min(32, zoom));
  return { ...view, zoom: next, x: x - ((x - view.x) * next) / view.zoom, y: y - ((y - view.y) * next) / view.zoom };
}

type Shown = Pick<BenchState, 'document' | 'committed' | 'tool'>;

/** What of the turned photograph's plane the stage shows: the crop, or all of the photograph with it while that is being chosen. */
export function shownOfPlane({ document, committed, tool }: Shown): Rect {
  const { photo, geometry = noGeometry } = document;
  if (tool !== 'crop') return cropOf(geometry, photo);
  return union(boundsOf(outlineOnPlane(geometry, photo)), cropOf(committed.geometry ?? noGeometry, photo));
}

/** The framing in which the stage shows an edit. */
export function shownFraming(state: Shown & Pick<BenchState, 'surround'>): Framing | undefined {
  const { photo, geometry = noGeometry } = state.document;
  if (state.tool !== 'crop') return pictureFraming(state.document);
  const framing = framingOf(geometry, photo, shownOfPlane(state));
  // No canvas is shown where there will be none.
  if (!framing || !isWithin(outlineOnPlane(geometry, photo), cropOf(geometry, photo))) return framing;
  const grey = state.surround / 255;
  return { ...framing, outside: { colour: [grey, grey, grey], fade: 0 } };
}

/** The whole pixels that a shape touches. */
function boundsOf(corners: readonly (readonly [number, number])[]): Rect {
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [x, y] = [Math.floor(Math.min(...xs) + 1e-6), Math.floor(Math.min(...ys) + 1e-6)];
  return { x, y, width: Math.ceil(Math.max(...xs) - 1e-6) - x, height: Math.ceil(Math.max(...ys) - 1e-6) - y };
}

/** Keeps a corner of the photograph on the stage, and at 100 % its pixels on the stage's. */
export function withinReach(view: View, photograph: Area, stage: Area): View {
  const reach = 60;
  const x = clamp(view.x, reach - photograph.width * view.zoom, stage.width - reach);
  const y = clamp(view.y, reach - photograph.height * view.zoom, stage.height - reach);
  return view.zoom === 1 ? { ...view, x: Math.round(x), y: Math.round(y) } : { ...view, x, y };
}
