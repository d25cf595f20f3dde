/**
 * The engine of the bench: owns the stage's canvas and the state of what is on it, and has tile workers render.
 * It never renders large areas itself, so that it can answer at any time.
 */
import { createKernels } from '@umbo/kernels';
import {
  accelerate,
  union,
  levelFor,
  levelSize,
  overviewLevel,
  quantise,
  wholeOf,
  type OtherPhotograph,
  type Raster,
  type Rect,
  type Scale,
  type Size,
} from '@umbo/core/base';
import { waysOf, patch, peekAt, type Peek, type UmboDocument } from '@umbo/core/document';
import { histogram, hueCensus } from '@umbo/core/measure';
import { documentReach, neededArea, needsPhotographWhole, photographsIn, surroundingsReach } from '@umbo/core/render';
import {
  colourBelow,
  createFrame,
  forgetBelow,
  jobsOf,
  noteUpdate,
  pictureSize,
  placement,
  planUpdate,
  portionsOf,
  serves,
  visibleArea,
  type Frame,
} from './inside/frame';
import { Levels } from './inside/levels';
import { Painter } from './inside/painter';
import { SideWorker } from './inside/sideWorker';
import { thumbnailSize, thumbnailSource } from './inside/thumbnails';
import { TilePool } from './inside/tilePool';
import {
  MAGNIFIED,
  type Ask,
  type FromEngine,
  type Look,
  type Other,
  type PictureThumbnail,
  type Question,
  type Thumbnails,
  type ToEngine,
  type ToTile,
  type TileJob,
  type Triple,
  type View,
} from './protocol';

/** Rows of the pyramid that the resampling kernel reads beyond what it writes. */
const KERNEL_ROWS = 8;
const CONTOURS_AFTER_MS = 60;
const THUMBNAILS_AFTER_MS = 250;
const GLIMPSE_AFTER_MS = 1000;
/** Longer side of the pictures of a colourway set's alternatives. */
const ALTERNATIVE_SIDE = 520;
const EVERYTHING: Peek = { solo: null, upTo: null };

accelerate(createKernels());

const send = (message: FromEngine): void => postMessage(message);

class Engine {
  readonly #pool: TilePool;
  readonly #side: SideWorker;
  readonly #levels: Levels;
  readonly #painter: Painter;
  readonly #full: Size;
  #document: UmboDocument;
  #stage: Size = { width: 1, height: 1 };
  #view: View | null = null;
  #look: Look = {
    compare: 'after',
    against: { kind: 'photograph' },
    peek: EVERYTHING,
    wipe: 0.5,
    maskView: 'contours',
    layerId: null,
    surround: 117,
  };
  #frame: Frame | null = null;
  #version: UmboDocument | null = null;
  readonly #others: Map<number, { full: Size; levels: Levels; level: number; photograph: OtherPhotograph | null }>;
  #seq = 0;
  #running = false;
  /** What tile workers are told before the next plan is made: a plan's jobs belong to one state of the edit. */
  readonly #untold: ToTile[] = [];
  #again = false;
  #overview: Raster | null = null;
  #thumbnailSource: Raster | null = null;
  #hasThumbnails = false;
  #makingThumbnails = false;
  #thumbnailsAgain = false;
  /** The colourway set whose alternatives are shown beside each other. */
  #alternativesOf: string | null = null;
  #alternativesRound = 0;
  #alternativesTimer: ReturnType<typeof setTimeout> | undefined;
  #contourTimer: ReturnType<typeof setTimeout> | undefined;
  #thumbnailTimer: ReturnType<typeof setTimeout> | undefined;

  constructor({ canvas, ports, side, photograph, others, document }: Extract<ToEngine, { type: 'open' }>) {
    this.#pool = new TilePool(ports);
    this.#side = new SideWorker(side);
    this.#levels = new Levels(photograph);
    this.#painter = new Painter(canvas);
    this.#full = { width: photograph.width, height: photograph.height };
    this.#document = document;
    this.#others = new Map();
    others.forEach((other) => this.#addOther(other));
    this.#untold.push({ type: 'document', document });
    this.#side.tell({ type: 'document', document });
    this.#readSmallLevel().catch(fail);
  }

  handle(message: Exclude<ToEngine, { type: 'open' }>): void {
    if (message.type === 'probe') return this.#probe(message.x, message.y, message.id, message.around);
    if (message.type === 'other') return this.#addOther(message.other);
    if (message.type === 'ask') return void this.#ask(message.ask, message.id);
    if (message.type === 'alternatives') {
      this.#alternativesOf = message.setId;
      return void this.#alternatives().catch(fail);
    }
    if (message.type === 'size') {
      this.#stage = message.size;
      this.#painter.resize(message.size);
    } else {
      this.#seq = message.seq;
      if (message.type === 'view') this.#view = message.view;
      else if (message.type === 'look') this.#setLook(message.look);
      else if (message.type === 'version') this.#version = message.document;
      else this.#setDocument(message);
    }
    if (message.type === 'view' || message.type === 'size') this.#draw(); // at once, with what is there
    this.#update();
  }

  #addOther(other: Other): void {
    const full = { width: other.width, height: other.height };
    this.#others.set(other.id, { full, levels: new Levels(other), level: -1, photograph: null });
  }

  #setLook(look: Look): void {
    const before = this.#look;
    this.#look = look;
    if (look.peek.solo !== before.peek.solo || look.peek.upTo !== before.peek.upTo) {
      const told: ToTile = { type: 'peek', peek: look.peek };
      this.#untold.push(told);
      this.#side.tell(told);
    }
    if (look.layerId !== before.layerId) this.#thumbnailsSoon();
    if (this.#frame?.rendered && (look.maskView !== before.maskView || look.layerId !== before.layerId)) {
      this.#painter.update(this.#frame, this.#frame.area, look);
      this.#contoursSoon();
    }
    this.#draw();
  }

  #setDocument(message: Extract<ToEngine, { type: 'patches' }>): void {
    this.#document = patch(this.#document, message.patches);
    const told: ToTile = { type: 'patches', patches: message.patches };
    this.#untold.push(told);
    this.#side.tell(told);
    this.#thumbnailsSoon();
    if (this.#alternativesOf !== null) this.#alternativesSoon();
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
      .catch((error: unknown) => {
        // What the workers had done of it is not known: the next picture begins anew.
        this.#frame = null;
        fail(error);
      })
      .finally(() => {
        this.#running = false;
        if (this.#again) this.#update();
      });
  }

  #serves(frame: Frame): boolean {
    const picture = pictureSize(this.#full, this.#view!.zoom);
    return serves(
      frame,
      picture,
      visibleArea(picture, this.#full, this.#view!, this.#stage),
      this.#reach(frame.scale),
      this.#around(frame.scale),
    );
  }

  /** The edit as it is looked at. */
  get #shown(): UmboDocument {
    return peekAt(this.#document, this.#look.peek);
  }

  /** The edit that the picture is compared with; null when that is the photograph, or nothing. */
  get #compared(): UmboDocument | null {
    const { compare, against } = this.#look;
    if (compare === 'after' || against.kind === 'photograph') return null;
    return against.kind === 'version' ? this.#version : peekAt(this.#document, { solo: null, upTo: against.id });
  }

  #reach(scale: Scale): number {
    const compared = this.#compared;
    return Math.max(documentReach(this.#document, scale, { viewed: this.#look.layerId }), compared ? documentReach(compared, scale) : 0);
  }

  /** How much beyond what is seen is rendered, for adjustments that look at the surroundings of pixels. */
  #around(scale: Scale): number {
    return surroundingsReach(this.#document, scale);
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
    const edit = this.#document;
    const shown = this.#shown;
    const compared = this.#compared;
    await this.#loadPictures(frame, compared ? [shown, compared] : [shown]);
    // While it loaded, edits may have come in.
    if (this.#shown !== shown) {
      this.#again = true;
      return;
    }
    for (const message of this.#untold.splice(0)) this.#pool.tell(message);
    let changed: Rect | null = null;
    for (const portion of portionsOf(frame, shown)) {
      const update = planUpdate(frame, portion, this.#look.layerId, edit);
      if (!update) continue;
      // A part of the stack is told to the workers as what is looked at.
      if (portion !== shown) this.#pool.tell({ type: 'shown', document: portion });
      for (const step of jobsOf(update))
        if (!(await this.#pool.run(step, this.#bandFor(step, portion, frame)))) {
          this.#frame = null; // half-rendered
          this.#again = true;
          return;
        }
      if (portion !== shown) this.#pool.tell({ type: 'shown', document: null });
      noteUpdate(frame, portion, update.job, edit);
      forgetBelow(frame, portion, this.#look.layerId);
      changed = changed ? union(changed, update.changed) : update.changed;
      if (update.job.layers.some(({ id, maskDirty }) => id === this.#look.layerId && maskDirty)) this.#contoursSoon();
    }
    if (changed) this.#painter.update(frame, changed, this.#look);
    if (compared && frame.beforeOf !== compared) {
      frame.beforeOf = null;
      if (await this.#pool.run({ type: 'before', document: compared }, 64)) {
        frame.beforeOf = compared;
        this.#painter.forgetBefore();
      } else this.#again = true;
    }
    if (!compared && frame.beforeOf) {
      frame.beforeOf = null;
      this.#painter.forgetBefore();
    }
    this.#draw();
    send({ type: 'painted', seq, sharp: true });
    if (!this.#hasThumbnails) this.#thumbnailsSoon();
  }

  /** How high the bands are in which tile workers take a job. */
  #bandFor(job: TileJob, document: UmboDocument, { area, scale }: Frame): number {
    if (job.type === 'below') return 64;
    const share = Math.max(32, Math.ceil((job.type === 'render' ? job.rect : area).height / this.#pool.size));
    if (job.type !== 'render') return share;
    // With masks to render, bands high enough that their margins do not dominate; else small ones, which all workers end together.
    return Math.min(share, job.layers.some(({ maskDirty }) => maskDirty) ? Math.max(64, 2 * documentReach(document, scale)) : 32);
  }

  async #openFrame(view: View): Promise<Frame | null> {
    const picture = pictureSize(this.#full, view.zoom);
    const scale = { picture, full: this.#full };
    const visible = visibleArea(picture, this.#full, view, this.#stage);
    if (visible.width < 1 || visible.height < 1) return null;
    const frame = createFrame(scale, visible, this.#reach(scale), this.#around(scale));
    const level = levelFor(this.#full, picture.width);
    const size = levelSize(this.#full, level);
    const perRow = size.height / picture.height;
    const from = Math.floor(frame.source.area.y * perRow) - KERNEL_ROWS;
    const to = Math.ceil((frame.source.area.y + frame.source.area.height) * perRow) + KERNEL_ROWS;
    const raster = await this.#levels.rows(level, from, to, (share) => send({ type: 'loading', share }));
    this.#frame = null; // from here on the tile workers know the new frame only
    const { area, source, rgba, below, before } = frame;
    this.#pool.tell({ type: 'frame', frame: { scale, area, source, rgba, below, before } });
    const finished = await this.#pool.run({ type: 'source', level: raster, levelSize: size }, 64);
    if (!finished) this.#again = true;
    return finished ? frame : null;
  }

  /** Other photographs that the edits show, at a level that is fine enough for the frame, and the overview where their masks need it. */
  async #loadPictures(
    { scale, owns, masks, filtered }: Pick<Frame, 'scale' | 'owns' | 'masks' | 'filtered'>,
    documents: readonly UmboDocument[],
  ): Promise<void> {
    if (!this.#overview && documents.some(needsPhotographWhole)) {
      const level = overviewLevel(this.#full);
      const overview = await this.#levels.rows(level, 0, levelSize(this.#full, level).height, (share) => send({ type: 'loading', share }));
      this.#overview = overview;
      this.#tellAll({ type: 'overview', overview });
    }
    for (const id of new Set(documents.flatMap(photographsIn))) {
      const other = this.#others.get(id);
      if (!other) continue;
      const level = levelFor(other.full, Math.ceil(other.full.width * Math.min(1, scale.picture.width / scale.full.width)));
      if (other.photograph && other.level <= level) continue;
      const { height } = levelSize(other.full, level);
      const raster = await other.levels.rows(level, 0, height, (share) => send({ type: 'loading', share }));
      other.level = level;
      other.photograph = { full: other.full, level: raster };
      this.#tellAll({ type: 'photograph', id, full: other.full, level: raster });
      // What was drawn without it is drawn anew.
      owns.clear();
      masks.clear();
      filtered.clear();
    }
  }

  #tellAll(message: ToTile): void {
    this.#pool.tell(message);
    this.#side.tell(message);
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
  #probe(x: number, y: number, id: number, around: boolean): void {
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
      below:
        this.#look.layerId === null ? null : colourBelow(frame, this.#document, this.#look.layerId, { x: px, y: py, width: 1, height: 1 }),
      after: [frame.rgba[at * 4]!, frame.rgba[at * 4 + 1]!, frame.rgba[at * 4 + 2]!],
      mask: mask ? mask.values[at]! / 65535 : null,
      around: around ? pixelsAround(frame, px, py) : null,
    });
  }

  /** The pixels that a question is answered from, and its scale. */
  async #question(ask: Question['ask'], area: Rect | null, level: number, document: UmboDocument): Promise<Question> {
    const picture = levelSize(this.#full, level);
    const scale = { picture, full: this.#full };
    const { owns, masks, filtered } = this.#frame ?? { owns: new Map(), masks: new Map(), filtered: new Map() };
    await this.#loadPictures({ scale, owns, masks, filtered }, [document]);
    const needed = area ? neededArea(document, scale, area) : wholeOf(picture);
    const source = await this.#levels.rows(level, needed.y, needed.y + needed.height);
    return { ask, scale, source };
  }

  async #ask(ask: Ask, id: number): Promise<void> {
    const level = ask.kind === 'sample' ? 0 : overviewLevel(this.#full);
    // At every zoom the same: from the photograph's own pixels, or from the overview.
    const make = (): Promise<Question> => {
      const shown =
        ask.kind === 'sample' && ask.below !== null ? peekAt(this.#document, { ...EVERYTHING, below: ask.below }) : this.#document;
      return this.#question(ask, ask.kind === 'sample' ? ask.area : null, level, shown);
    };
    try {
      const answer = await this.#side.ask(make, (share) => send({ type: 'asking', share }));
      send({ type: 'answered', id, answer });
    } catch (error) {
      send({ type: 'unanswered', id, message: (error as Error).message });
    }
    send({ type: 'asking', share: 1 });
  }

  /** Small pictures of the edit with each alternative of a set in turn; anew after every edit. */
  async #alternatives(): Promise<void> {
    const setId = this.#alternativesOf;
    if (setId === null) return;
    const round = ++this.#alternativesRound;
    const size = thumbnailSize(this.#full, ALTERNATIVE_SIDE);
    const level = levelFor(this.#full, size.width);
    const raster = await this.#levels.rows(level, 0, levelSize(this.#full, level).height);
    const source = thumbnailSource(this.#full, raster, size);
    const ways = waysOf(this.#document, setId);
    const pictures: Extract<FromEngine, { type: 'alternatives' }>['pictures'] = [];
    for (const { id } of ways) {
      const ask = { kind: 'alternative', setId, id } as const;
      const picture = await this.#side.ask<PictureThumbnail>(async () => ({ ask, scale: { picture: size, full: this.#full }, source }));
      if (round !== this.#alternativesRound) return;
      pictures.push({ id, picture });
      send({ type: 'alternatives', setId, wanted: ways.length, pictures });
    }
  }

  #alternativesSoon(): void {
    clearTimeout(this.#alternativesTimer);
    this.#alternativesTimer = setTimeout(() => void this.#alternatives().catch(fail), THUMBNAILS_AFTER_MS);
  }

  /** The smallest useful level serves the census and the thumbnails. */
  async #readSmallLevel(): Promise<void> {
    const level = levelFor(this.#full, thumbnailSize(this.#full).width);
    const { height } = levelSize(this.#full, level);
    const raster = await this.#levels.rows(level, 0, height);
    this.#thumbnailSource = thumbnailSource(this.#full, raster);
    // The stage comes first, and small pictures would only take its time; when it takes long, they are a first glimpse.
    this.#thumbnailsSoon(this.#frame?.rendered ? 0 : GLIMPSE_AFTER_MS);
    send({ type: 'measured', census: hueCensus(raster), histogram: histogram(raster) });
  }

  #thumbnailsSoon(ms = THUMBNAILS_AFTER_MS): void {
    clearTimeout(this.#thumbnailTimer);
    this.#thumbnailTimer = setTimeout(() => void this.#thumbnails().catch(fail), ms);
  }

  async #thumbnails(): Promise<void> {
    const source = this.#thumbnailSource;
    if (!source || (!this.#overview && needsPhotographWhole(this.#document))) return; // the stage asks for them once it has it
    // One round at a time: an edit lets the one under way begin anew.
    if (this.#makingThumbnails) return void (this.#thumbnailsAgain = true);
    this.#hasThumbnails = this.#makingThumbnails = true;
    this.#thumbnailsAgain = false;
    const { width, height } = source.area;
    try {
      const { masks, original, result, region } = await this.#side.ask<Thumbnails>(async () => ({
        ask: { kind: 'thumbnails', layerId: this.#look.layerId },
        scale: { picture: { width, height }, full: this.#full },
        source,
      }));
      this.#painter.setOverview(result);
      send({ type: 'thumbnails', masks, original, result });
      if (region) send({ type: 'region', region });
      if (!this.#frame) this.#draw();
    } finally {
      this.#makingThumbnails = false;
      if (this.#thumbnailsAgain) this.#thumbnailsSoon();
    }
  }
}

/** A square of the frame's pixels about one of them; transparent where the frame ends. */
function pixelsAround({ area, rgba }: Frame, px: number, py: number): PictureThumbnail {
  const out = new Uint8ClampedArray(MAGNIFIED * MAGNIFIED * 4);
  const reach = (MAGNIFIED - 1) / 2;
  for (let y = 0; y < MAGNIFIED; y++)
    for (let x = 0; x < MAGNIFIED; x++) {
      const [fx, fy] = [px - reach + x - area.x, py - reach + y - area.y];
      if (fx < 0 || fy < 0 || fx >= area.width || fy >= area.height) continue;
      const at = (fy * area.width + fx) * 4;
      out.set(rgba.subarray(at, at + 4), (y * MAGNIFIED + x) * 4);
    }
  return { width: MAGNIFIED, height: MAGNIFIED, rgba: out };
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
