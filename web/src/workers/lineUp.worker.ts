/** Paints parts of several photographs, each with its edit, one after another. */
import { createKernels } from '@umbo/kernels';
import {
  accelerate,
  createRaster,
  intersect,
  isEmpty,
  keyOf,
  levelFor,
  levelSize,
  overviewLevel,
  project,
  resample,
  wholeOf,
  writeRaster,
  type LoadedPicture,
  type Pictures,
  type Size,
} from '@umbo/core/base';
import { findResolved, resolveLayers, scaleOf, type Role } from '@umbo/core/document';
import { photographArea, pictureSamples, placesInPicture, sizeAt } from '@umbo/core/geometry';
import { findMask, neededArea, renderRegion } from '@umbo/core/render';
import { rgbaOf, showingSmall } from './inside/display';
import { Levels } from './inside/levels';
import { PictureLoader } from './inside/pictureLoader';
import type { Other } from './protocol';
import type { Anchor, FromLineUp, LineUpCell, LinedUp, ToLineUp } from './lineUpProtocol';

accelerate(createKernels());
const send = (message: FromLineUp, transfer: Transferable[] = []): void => postMessage(message, { transfer });

class One {
  readonly photograph: LinedUp;
  readonly full: Size;
  readonly #levels: Levels;
  readonly #loader: PictureLoader;
  readonly #loaded = new Map<string, LoadedPicture>();
  readonly #pictures: Pictures = { find: (need) => this.#loaded.get(keyOf(need)) ?? null };

  constructor(photograph: LinedUp, others: readonly Other[]) {
    this.photograph = photograph;
    this.full = { width: photograph.width, height: photograph.height };
    this.#levels = new Levels(photograph, photograph.document);
    this.#loader = new PictureLoader({ full: this.full, levels: this.#levels }, photograph.document.workingSpace, others, {
      progress: () => undefined,
      loaded: (need, picture) => void this.#loaded.set(keyOf(need), picture),
      refined: () => undefined,
    });
  }

  async paint({ scale: share, area: wanted }: LineUpCell, before: boolean): Promise<ImageBitmap | null> {
    const { document } = this.photograph;
    const picture = { width: Math.max(1, Math.round(this.full.width * share)), height: Math.max(1, Math.round(this.full.height * share)) };
    const scale = scaleOf(document, picture);
    const cut = intersect(wanted, wholeOf(sizeAt(scale)));
    if (isEmpty(cut)) return null;
    if (!before) await this.#loader.load([document], scale);
    const area = photographArea(scale, cut);
    const needed = before ? area : neededArea(document, scale, area);
    const level = levelFor(this.full, picture.width);
    const from = levelSize(this.full, level);
    const ratio = from.height / picture.height;
    // What resampling looks at around it, too.
    const margin = Math.ceil(4 * Math.max(1, ratio));
    const rows = await this.#levels.rows(
      level,
      Math.floor(needed.y * ratio) - margin,
      Math.ceil((needed.y + needed.height) * ratio) + margin,
    );
    const photograph = createRaster(needed);
    resample(rows, from, picture, needed, photograph);
    const shown = before ? photograph : createRaster(area);
    if (!before) renderRegion(document, scale, area, photograph, this.#pictures, (tile, pixels) => writeRaster(shown, tile, pixels));
    const made = pictureSamples(scale, cut, () => ({ area, channels: 4, values: rgbaOf(shown, area, showingSmall(scale)) }));
    return createImageBitmap(new ImageData(made.values as Uint8ClampedArray<ArrayBuffer>, cut.width));
  }

  /** Where the region of a role is; null where there is none. */
  async find(role: Role): Promise<Anchor | null> {
    const { document } = this.photograph;
    const region = document.regions?.find((one) => one.role === role);
    if (!region) return null;
    const level = overviewLevel(this.full);
    const size = levelSize(this.full, level);
    const scale = scaleOf(document, size);
    await this.#loader.load([document], scale, (id) => id === region.id);
    const rows = await this.#levels.rows(level, 0, size.height);
    const mask = findMask(document, findResolved(resolveLayers(document), region.id)!, scale, wholeOf(size), rows, this.#pictures);
    let [left, right, top, bottom] = [size.width, -1, size.height, -1];
    for (let i = 0; i < mask.length; i++) {
      if (mask[i]! < 32768) continue;
      const [x, y] = [i % size.width, Math.floor(i / size.width)];
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
    }
    if (right < 0) return null;
    // Where that is in the picture.
    const { size: cut, toPicture } = placesInPicture(scale);
    const corners = [
      [left, top],
      [right + 1, top],
      [right + 1, bottom + 1],
      [left, bottom + 1],
    ].map(([x, y]) => project(toPicture, x!, y!));
    const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    return {
      x: (x0 + x1) / 2 / cut.width,
      y: (y0 + y1) / 2 / cut.height,
      size: Math.max(x1 - x0, y1 - y0) / Math.max(cut.width, cut.height),
    };
  }
}

let all: One[] = [];
let latest = 0;

async function show({ round, cells, before }: Extract<ToLineUp, { type: 'show' }>): Promise<void> {
  for (const cell of cells) {
    // A newer wish may have come meanwhile.
    await new Promise((next) => setTimeout(next));
    if (round !== latest) return;
    const one = all.find(({ photograph }) => photograph.id === cell.id);
    try {
      const picture = await one?.paint(cell, before);
      if (picture) send({ type: 'picture', round, cell, before, picture }, [picture]);
    } catch (error) {
      send({ type: 'failed', id: cell.id, message: (error as Error).message });
    }
  }
}

addEventListener('message', ({ data }: MessageEvent<ToLineUp>) => {
  if (data.type === 'open') all = data.photographs.map((photograph) => new One(photograph, data.others));
  else if (data.type === 'show') {
    latest = data.round;
    void show(data);
  } else
    void Promise.all(
      all.map(async (one): Promise<readonly (readonly [number, Anchor])[]> => {
        const anchor = await one.find(data.role).catch(() => null);
        return anchor ? [[one.photograph.id, anchor]] : [];
      }),
    ).then((found) => send({ type: 'anchors', role: data.role, anchors: found.flat() }));
});
