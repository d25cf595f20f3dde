import { rampFromRegion } from '../adjust/evenRamp.ts';
import { createPlanes, readRaster } from '../base/planes.ts';
import type { Colour } from '../colour/colour.ts';
import { wrapHue } from '../colour/hueSpan.ts';
import { rgbToOklab } from '../colour/oklab.ts';
import { spaceOf } from '../colour/spaces.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

/** A region's own colour at each lightness, its mean hue in degrees, and its mean lightness; no colours where nothing counts. */
export interface OwnColours {
  readonly colours: Colour[];
  readonly hue: number;
  readonly middle: number;
}

export const ownColours: Measurement<'ownColours', object, OwnColours> = {
  kind: 'ownColours',
  needs: 'picture',
  measure(_settings, { picture, weight, scale }) {
    const n = picture.r.length;
    const space = spaceOf(scale);
    const planes = createPlanes(n);
    readRaster(picture, picture.area, planes);
    const shares = weight ? new Float32Array(weight).map((w) => w / 65535) : new Float32Array(n).fill(1);
    const lab = new Float64Array(3);
    const sum = [0, 0, 0];
    let total = 0;
    for (let i = 0; i < n; i++) {
      if (shares[i] === 0) continue;
      rgbToOklab(space, planes.r[i]!, planes.g[i]!, planes.b[i]!, lab);
      for (let c = 0; c < 3; c++) sum[c]! += lab[c]! * shares[i]!;
      total += shares[i]!;
    }
    return {
      colours: rampFromRegion(space, planes, shares, 'lightness'),
      hue: wrapHue((Math.atan2(sum[2]!, sum[1]!) * 180) / Math.PI),
      middle: total > 0 ? Math.min(1, Math.max(0, sum[0]! / total)) : 0.5,
    };
  },
  apply: ({ colours, hue, middle }, _settings, layer) =>
    writeContent(layer, 'evenness', (settings) => void Object.assign(settings, { colours, hue, middle })),
};
