import { spaceOf } from '../colour/spaces.ts';
import { rampFromRegion, type EvenRampSettings } from '../adjust/evenRamp.ts';
import { createPlanes, readRaster } from '../base/planes.ts';
import type { Colour } from '../colour/colour.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

/** A colour of a region for each value of the driver; none where nothing counts. */
export const ramp: Measurement<'ramp', Pick<EvenRampSettings, 'driver'>, Colour[]> = {
  kind: 'ramp',
  needs: 'picture',
  measure({ driver }, { picture, weight, scale }) {
    const n = picture.r.length;
    const planes = createPlanes(n);
    readRaster(picture, picture.area, planes);
    return rampFromRegion(
      spaceOf(scale),
      planes,
      weight ? new Float32Array(weight).map((w) => w / 65535) : new Float32Array(n).fill(1),
      driver,
    );
  },
  // With the driver that they were found for: other colours would belong to other values.
  apply: (colours, { driver }, layer) => writeContent(layer, 'evenRamp', (settings) => void Object.assign(settings, { colours, driver })),
};
