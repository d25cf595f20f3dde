/**
 * The engine of the bench: owns the stage's canvas and the state of what is on it, and has tile workers render.
 * It never renders large areas itself, so that it can answer at any time.
 */
import { createKernels } from '@umbo/kernels';
import {
  accelerate,
  documentReach,
  emptyDocument,
  hueCensus,
  levelFor,
  levelSize,
  patch,
  quantise,
  type Layer,
  type Mask,
  type Raster,
  type Size,
  type UmboDocument,
} from '@umbo/core';
import { createFrame, noteUpdate, pictureSize, placement, planUpdate, serves, visibleArea, type Frame } from './inside/frame';
import { Levels } from './inside/levels';
import { Painter } from './inside/painter';
import { maskThumbnail, pictureThumbnail, thumbnailSize, thumbnailSource } from './inside/thumbnails';
import { TilePool } from './inside/tilePool';
import type { FromEngine, Look, MaskThumbnail, ToEngine, Triple, View } from './protocol';

/** Rows of the pyramid that the resampling kernel reads beyond what it writes. */
const KERNEL_ROWS = 8;
const CONTOURS_AFTER_MS = 60;
const THUMBNAILS_AFTER_MS = 250;

accelerate(createKernels());

const send = (message: FromEngine): void => postMessage(message);

class Engine {
  readonly #pool: TilePool;
  readonly #levels: Levels;
  readonly #painter: Painter;
  readonly #full: Size;
  #document: UmboDocument;
  #stage: Size = { width: 1, height: 1 };
  #view: View | null = null;
  #look: Look = { compare: 'after', wipe: 0.5, maskView: 'contours', layerId: null, surround: 117 };
  #frame: Frame | null = null;
  #seq = 0;
  #running = false;
  #again = false;
  #thumbnailSource: Raster | null = null;
  readonly #maskThumbnails = new Map<string, { of: Mask; mask: MaskThumbnail | null }>();
  #contourTimer: ReturnType<typeof setTimeout> | undefined;
  #thumbnailTimer: ReturnType<typeof setTimeout> | undefined;

  constructor({ canvas, ports, photographId, full, document }: Extract<ToEngine, { type: 'open' }>) {
    this.#pool = new TilePool(ports);
    this.#levels = new Levels(photographId, full);
    this.#painter = new Painter(canvas);
    this.#full = full;
    this.#document = document;
    this.#pool.tell({ type: 'document', document });
    this.#readSmallLevel().catch(fail);
  }

  handle(message: Exclude<ToEngine, { type: 'open' }>): void {
    if (message.type === 'probe') return this.#probe(message.x, message.y, message.id);
    if (message.type === 'size') {
      this.#stage = message.size;
      this.#painter.resize(message.size);
    } else {
      this.#seq = message.seq;
      if (message.type === 'view') this.#view = message.view;
      else if (message.type === 'look') this.#setLook(message.look);
      else this.#setDocument(message);
    }
    if (message.type === 'view' || message.type === 'size') this.#draw(); // at once, with what is there
    this.#update();
  }

  #setLook(look: Look): void {
    const before = this.#look;
    this.#look = look;
    if (this.#frame?.rendered && (look.maskView !== before.maskView || look.layerId !== before.layerId)) {
      this.#painter.update(this.#frame, this.#frame.area, look);
      this.#contoursSoon();
    }
    this.#draw();
  }

  #setDocument(message: Extract<ToEngine, { type: 'patches' | 'document' }>): void {
    if (message.type === 'document') this.#document = message.document;
    else this.#document = patch(this.#document, message.patches);
    this.#pool.tell(
      message.type === 'document' ? { type: 'document', document: message.document } : { type: 'patches', patches: message.patches },
    );
    this.#thumbnailsSoon();
  }

  /** Brings the stage up to date, one rendering at a time; what comes in meanwhile is taken up together afterwards. */
  #update(): void {
    if (this.#running) {
      this.#again = true;
      const frame = this.#frame;
      if (frame && !this.#serves(frame)) this.#pool.callOff();
      return;
    }
    this.#running = true;
    this.#again = false;
    this.#render()
      .catch(fail)
      .finally(() => {
        this.#running = false;
        if (this.#again) this.#update();
      });
  }

  #serves(frame: Frame): boolean {
    const picture = pictureSize(this.#full, this.#view!.zoom);
    return serves(frame, picture, visibleArea(picture, this.#full, this.#view!, this.#stage), documentReach(this.#document, frame.scale));
  }

  async #render(): Promise<void> {
    const view = this.#view;
    if (!view) return;
    const seq = this.#seq;
    if (!this.#frame || !this.#serves(this.#frame)) {
      const frame = await this.#openFrame(view);
      if (!frame) return;
      this.#frame = frame;
    }
    const frame = this.#frame;
    const layers = this.#document.layers as Layer[];
    const update = planUpdate(frame, layers, this.#look.layerId);
    if (update) {
      const { job, changed } = update;
      // With masks to render, bands high enough that their margins do not dominate; else small ones, which all workers end together.
      const wanted = job.layers.some(({ dirty }) => dirty) ? Math.max(64, 2 * documentReach(this.#document, frame.scale)) : 32;
      const band = Math.max(32, Math.min(Math.ceil(job.rect.height / this.#pool.size), wanted));
      if (!(await this.#pool.run(job, band))) {
        this.#frame = null; // half-rendered
        this.#again = true;
        return;
      }
      noteUpdate(frame, layers, job);
      this.#painter.update(frame, changed, this.#look);
      if (job.layers.some(({ id, dirty }) => id === this.#look.layerId && dirty)) this.#contoursSoon();
    }
    this.#draw();
    send({ type: 'painted', seq, sharp: true });
  }

  async #openFrame(view: View): Promise<Frame | null> {
    const picture = pictureSize(this.#full, view.zoom);
    const scale = { picture, full: this.#full };
    const visible = visibleArea(picture, this.#full, view, this.#stage);
    if (visible.width < 1 || visible.height < 1) return null;
    const frame = createFrame(scale, visible, documentReach(this.#document, scale));
    const level = levelFor(this.#full, picture.width);
    const size = levelSize(this.#full, level);
    const perRow = size.height / picture.height;
    const from = Math.floor(frame.source.area.y * perRow) - KERNEL_ROWS;
    const to = Math.ceil((frame.source.area.y + frame.source.area.height) * perRow) + KERNEL_ROWS;
    const raster = await this.#levels.rows(level, from, to, (share) => send({ type: 'loading', share }));
    this.#frame = null; // from here on the tile workers know the new frame only
    this.#pool.tell({ type: 'frame', frame: { scale, area: frame.area, source: frame.source, rgba: frame.rgba, below: frame.below } });
    const finished = await this.#pool.run({ type: 'source', level: raster, levelSize: size }, 64);
    if (!finished) this.#again = true;
    return finished ? frame : null;
  }

  #draw(): void {
    if (this.#view) this.#painter.draw(this.#view, this.#look, this.#full);
  }

  #contoursSoon(): void {
    clearTimeout(this.#contourTimer);
    this.#contourTimer = setTimeout(
      () => {
        this.#painter.updateContours(this.#look);
        this.#draw();
      },
      this.#look.maskView === 'contours' ? CONTOURS_AFTER_MS : 0,
    );
  }

  /** The colours at a place of the stage: of the very pixel that is drawn there. */
  #probe(x: number, y: number, id: number): void {
    const frame = this.#frame;
    if (!frame?.rendered || !this.#view) return;
    const { area, source } = frame;
    const place = placement(frame, this.#view, this.#full);
    const px = Math.floor((x - place.x) / place.perPixel);
    const py = Math.floor((y - place.y) / place.perPixel);
    if (px < area.x || py < area.y || px >= area.x + area.width || py >= area.y + area.height) return;
    const at = (py - area.y) * area.width + px - area.x;
    const from = (py - source.area.y) * source.area.width + px - source.area.x;
    const before = [source.r, source.g, source.b].map((plane) => quantise(plane[from]! / 65535, 255)) as unknown as Triple;
    const mask = this.#look.layerId ? frame.masks.get(this.#look.layerId) : undefined;
    send({
      type: 'probed',
      id,
      before,
      after: [frame.rgba[at * 4]!, frame.rgba[at * 4 + 1]!, frame.rgba[at * 4 + 2]!],
      mask: mask ? mask.values[at]! / 65535 : null,
    });
  }

  /** The smallest useful level serves the census and the thumbnails. */
  async #readSmallLevel(): Promise<void> {
    const level = levelFor(this.#full, thumbnailSize(this.#full).width);
    const { height } = levelSize(this.#full, level);
    const raster = await this.#levels.rows(level, 0, height);
    this.#thumbnailSource = thumbnailSource(this.#full, raster);
    this.#thumbnails();
    send({ type: 'census', bins: hueCensus(raster) });
  }

  #thumbnailsSoon(): void {
    clearTimeout(this.#thumbnailTimer);
    this.#thumbnailTimer = setTimeout(() => this.#thumbnails(), THUMBNAILS_AFTER_MS);
  }

  #thumbnails(): void {
    const source = this.#thumbnailSource;
    if (!source) return;
    const masks = this.#document.layers.map(({ id, where }) => {
      let known = this.#maskThumbnails.get(id);
      if (known?.of !== where)
        this.#maskThumbnails.set(id, (known = { of: where as Mask, mask: maskThumbnail(where as Mask, this.#full, source) }));
      return { id, mask: known.mask };
    });
    const result = pictureThumbnail(this.#document, this.#full, source);
    this.#painter.setOverview(result);
    send({ type: 'thumbnails', masks, original: pictureThumbnail(emptyDocument(this.#full), this.#full, source), result });
    if (!this.#frame) this.#draw();
  }
}

function fail(error: unknown): void {
  send({ type: 'failed', message: error instanceof Error ? error.message : String(error) });
}

let engine: Engine | undefined;
addEventListener('message', ({ data }: MessageEvent<ToEngine>) => {
  try {
    if (data.type === 'open') engine = new Engine(data);
    else engine!.handle(data);
  } catch (error) {
    fail(error);
  }
});
