'use client';
import { contours } from 'd3-contour';
import { memo, useEffect, useMemo, useRef } from 'react';
import type { MaskThumbnail, PictureThumbnail } from '../../workers/protocol';

/** Grid cells on the longer side: enough for a card. */
const CELLS = 44;

/** A mask as contour lines, for a picture under them. */
export const MaskLines = memo(function MaskLines({ mask }: { mask: MaskThumbnail | null }) {
  const drawing = useMemo(() => {
    if (!mask) return null;
    const step = Math.max(1, Math.ceil(Math.max(mask.width, mask.height) / CELLS));
    const width = Math.floor(mask.width / step);
    const height = Math.floor(mask.height / step);
    if (width < 2 || height < 2) return null;
    const grid = Array.from({ length: width * height }, (_, i) => {
      const x = (i % width) * step;
      const y = Math.floor(i / width) * step;
      let sum = 0;
      for (let dy = 0; dy < step; dy++) for (let dx = 0; dx < step; dx++) sum += mask.values[(y + dy) * mask.width + x + dx]!;
      return sum / (step * step);
    });
    const generator = contours().size([width, height]);
    const paths = [0.1, 0.5, 0.9].map((level) =>
      generator
        .contour(grid, level)
        .coordinates.flatMap((polygon) => polygon.map((ring) => `M${ring.map(([x, y]) => `${x!.toFixed(1)} ${y!.toFixed(1)}`).join('L')}Z`))
        .join(''),
    );
    return { width, height, paths };
  }, [mask]);
  if (!drawing) return null;
  return (
    <svg viewBox={`0 0 ${drawing.width} ${drawing.height}`} preserveAspectRatio="xMidYMid slice" aria-hidden>
      {(['#000', '#fff'] as const).map((stroke) =>
        drawing.paths.map((path, i) => (
          <path
            key={`${stroke} ${i}`}
            d={path}
            fill="none"
            stroke={stroke}
            strokeOpacity={stroke === '#000' ? 0.5 : i === 1 ? 1 : 0.6}
            strokeWidth={(drawing.width / 50) * (stroke === '#000' ? 2.2 : 1)}
          />
        )),
      )}
    </svg>
  );
});

/** A small picture from the engine. */
export function Picture({ picture }: { picture: PictureThumbnail | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const target = canvas.current;
    if (!target || !picture) return;
    target.width = picture.width;
    target.height = picture.height;
    target
      .getContext('2d')!
      .putImageData(new ImageData(picture.rgba, picture.width, picture.height, { colorSpace: picture.space ?? 'srgb' }), 0, 0);
  }, [picture]);
  return <canvas ref={canvas} aria-hidden />;
}
