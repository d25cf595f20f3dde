import { stretch, type PlaceMap } from '@umbo/core/base';
import type { View } from './protocol';

/** How the photograph lies on the stage, in device pixels. */
export const stageMapping = ({ x, y, zoom }: View): { toStage: PlaceMap; toPhotograph: PlaceMap } => ({
  toStage: stretch(zoom, zoom, x, y),
  toPhotograph: stretch(1 / zoom, 1 / zoom, -x / zoom, -y / zoom),
});
