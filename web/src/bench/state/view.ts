/** Where the photograph lies on the stage. */
import { clamp } from '@umbo/core/base';
import type { View } from '../../workers/protocol';

interface Area {
  width: number;
  height: number;
}

/** What the tool bar and the strip over it take of the stage, in CSS pixels. */
const TOOLS_HEIGHT = 76;

/** The view that shows all of the photograph with a margin, never larger than 100 %. @param columns how many such pictures share the stage's width */
export function fit(photograph: Area, stage: Area, columns = 1): View {
  const margin = Math.min(stage.width, stage.height) * 0.03;
  // The tools lie over the lower edge.
  const height = stage.height - TOOLS_HEIGHT * (globalThis.devicePixelRatio || 1);
  const zoom = Math.min(
    1,
    Math.max(0.01, Math.min((stage.width / columns - 2 * margin) / photograph.width, (height - 2 * margin) / photograph.height)),
  );
  return { zoom, x: Math.round((stage.width - photograph.width * zoom) / 2), y: Math.round((height - photograph.height * zoom) / 2) };
}

/** Another zoom about a point of the stage that stays where it is. */
export function zoomAbout(view: View, zoom: number, x: number, y: number): View {
  const next = Math.max(0.02, Math.min(32, zoom));
  return { zoom: next, x: x - ((x - view.x) * next) / view.zoom, y: y - ((y - view.y) * next) / view.zoom };
}

/** Keeps a corner of the photograph on the stage, and at 100 % its pixels on the stage's. */
export function withinReach(view: View, photograph: Area, stage: Area): View {
  const reach = 60;
  const x = clamp(view.x, reach - photograph.width * view.zoom, stage.width - reach);
  const y = clamp(view.y, reach - photograph.height * view.zoom, stage.height - reach);
  return view.zoom === 1 ? { ...view, x: Math.round(x), y: Math.round(y) } : { ...view, x, y };
}
