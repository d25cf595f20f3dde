import { levelFor, levelSize, project, quantise, union, type PictureNeed, type Rect, type Scale, type Size } from '@umbo/core/base';
import { goesByFrame, pictureFraming, sameValue, scaleOf, type UmboDocument } from '@umbo/core/document';
import { framingAt } from '@umbo/core/geometry';
import { documentReach, filtersReach } from '@umbo/core/render';
import {
  MAGNIFIED,
  FARTHEST,
  type FromEngine,
  type Look,
  type OutOfGamut,
  type Proof,
  type ProofChoice,
  type PictureThumbnail,
  type TileJob,
  type ToTile,
  type Triple,
  type View,
} from '../protocol';
import {
  backdropColour,
  createViewport,
  resultAt,
  forgetBackdrops,
  forgetPictured,
  jobsOf,
  noteUpdate,
  pictureSize,
  placement,
  planUpdate,
  portionsOf,
  serves,
  visibleArea,
  type Viewport,
} from './viewport';
import type { Levels } from './levels';
import { comparedOf, shownOf, stagedOf, type Looked } from './looked';
import type { Painter } from './painter';
import type { PictureLoader } from './pictureLoader';
import { loadProof } from './proof';
import type { TilePool } from './tilePool';

/** Rows of the pyramid that the resampling kernel reads beyond what it writes. */
const KERNEL_ROWS = 8;
const CONTOURS_AFTER_MS = 60;
/** What was drawn as a draft is drawn exactly when nothing has changed for so long. */
const LEISURE_MS = 120;

export interface StageParts {
  looked: Looked;
  pool: TilePool;
  levels: Levels;
  loader: PictureLoader;
  painter: Painter;
  /** The space of what is shown. */
  display: PredefinedColorSpace;
  send: (message: FromEngine) => void;
  fail: (error: unknown) => void;
  /** A picture is on the stage. */
  painted: (viewport: Viewport) => void;
}

/** Keeps the stage at what is looked at: one rendering at a time, in tile workers; what comes in meanwhile is taken up together afterwards. */
export class StageLoop {
  readonly #looked: Looked;
  readonly #pool: TilePool;
  readonly #levels: Levels;
  readonly #loader: PictureLoader;
  readonly #painter: Painter;
  readonly #display: PredefinedColorSpace;
  #proof: Proof | null = null;
  /** Grows with each proof that is asked for: one that is loaded late is not wanted any more. */
  #proofs = 0;
  readonly #send: StageParts['send'];
  readonly #fail: StageParts['fail'];
  readonly #painted: StageParts['painted'];
  #stage: Size = { width: 1, height: 1 };
  #view: View | null = null;
  #viewport: Viewport | null = null;
  #seq = 0;
  #running = false;
  #again = false;
  /** What tile workers are told before the next plan is made: a plan's jobs belong to one state of the edit. */
  readonly #untold: ToTile[] = [];
  #leisureTimer: ReturnType<typeof setTimeout> | undefined;
  #contourTimer: ReturnType<typeof setTimeout> | undefined;

  constructor({ looked, pool, levels, loader, painter, display, send, fail, painted }: StageParts) {
    this.#looked = looked;
    this.#pool = pool;
    this.#levels = levels;
    this.#loader = loader;
    this.#painter = painter;
    this.#display = display;
    this.#send = send;
    this.#fail = fail;
    this.#painted = painted;
  }

  /** Whether something is on the stage at all. */
  get hasViewport(): boolean {
    return this.#viewport !== null;
  }
  get hasPicture(): boolean {
    return Boolean(this.#viewport?.rendered);
  }

  setSize(size: Size): void {
    this.#stage = size;
    this.#painter.resize(size);
    this.draw(); // at once, with what is there
  }

  setView(view: View): void {
    const before = this.#view?.framing;
    // The same object while it is the same: what is turned by it is kept.
    const isSame = sameValue(before, view.framing);
    this.#view = isSame ? { ...view, framing: before } : view;
    if (!isSame) this.#contoursSoon();
    this.draw();
  }

  /** What is looked at is another, or differently shown. */
  lookChanged(before: Look): void {
    const { look } = this.#looked;
    const isOther = (['maskView', 'layerId', 'lit', 'clipped'] as const).some((key) => look[key] !== before[key]);
    if (this.#viewport?.rendered && isOther) {
      this.#painter.update(this.#viewport, this.#viewport.area, look, stagedOf(this.#looked));
      this.#contoursSoon();
    }
    this.draw();
  }

  /** Shows everything through another proof, or none. */
  async setProof(choice: ProofChoice | null): Promise<void> {
    const round = ++this.#proofs;
    const proof = choice && (await loadProof(choice, this.#looked.document.workingSpace, this.#display));
    if (round !== this.#proofs) return;
    this.#proof = proof;
    this.#painter.setProof(proof);
    this.update();
  }

  /** Tells the tile workers something before they render again. */
  tellLater(message: ToTile): void {
    this.#untold.push(message);
  }

  /** A picture is there now, or finer: what shows it is drawn anew. */
  pictureCame(picture: PictureNeed): void {
    if (this.#viewport && forgetPictured(this.#viewport, picture)) this.update();
  }

  /** Brings the stage up to date. @param seq of the message that asked for it */
  update(seq = this.#seq): void {
    this.#seq = seq;
    if (this.#running) {
      this.#again = true;
      if (this.#viewport && !this.#serves(this.#viewport)) this.#pool.callOff();
      return;
    }
    this.#running = true;
    this.#again = false;
    this.#render()
      .catch((error: unknown) => {
        // What the workers had done of it is not known: the next picture begins anew.
        this.#viewport = null;
        this.#fail(error);
      })
      .finally(() => {
        this.#running = false;
        if (this.#again) this.update();
      });
  }

  draw(atLeisure = false): void {
    if (!this.#view) return;
    clearTimeout(this.#leisureTimer);
    if (this.#painter.draw(this.#view, this.#looked.look, this.#looked.full, atLeisure))
      this.#leisureTimer = setTimeout(() => this.draw(true), LEISURE_MS);
  }

  #serves(viewport: Viewport): boolean {
    // One that was begun before another proof was there.
    if (viewport.proof !== this.#proof) return false;
    const { full } = this.#looked;
    const document = stagedOf(this.#looked);
    const picture = pictureSize(full, this.#view!.zoom);
    const visible = visibleArea(picture, full, this.#view!, this.#stage);
    const framing = goesByFrame(document) ? (pictureFraming(document) ?? null) : undefined;
    return serves(viewport, picture, visible, this.#reach(viewport.scale), filtersReach(document, viewport.scale), framing);
  }

  #reach(scale: Scale): number {
    const { look } = this.#looked;
    const document = stagedOf(this.#looked);
    const compared = comparedOf(this.#looked);
    return Math.max(documentReach(document, scale, { viewed: look.layerId }), compared ? documentReach(compared, scale) : 0);
  }

  async #render(): Promise<void> {
    const view = this.#view;
    if (!view) return;
    const seq = this.#seq;
    if (!this.#viewport || !this.#serves(this.#viewport)) {
      const viewport = await this.#openViewport(view);
      if (!viewport) return;
      this.#viewport = viewport;
    }
    const viewport = this.#viewport;
    const looked = this.#looked;
    const edit = stagedOf(looked);
    const shown = shownOf(looked);
    const compared = comparedOf(looked);
    await this.#loader.load(compared ? [shown, compared] : [shown], viewport.scale, (id) => id === looked.look.layerId);
    // While it loaded, edits may have come in.
    if (shownOf(looked) !== shown) {
      this.#again = true;
      return;
    }
    for (const message of this.#untold.splice(0)) this.#pool.tell(message);
    let changed: Rect | null = null;
    for (const portion of portionsOf(viewport, shown)) {
      const update = planUpdate(viewport, portion, looked.look.layerId, edit);
      if (!update) continue;
      // A part of the stack, or an edit that stands in for the one in work, is told to the workers as what is looked at.
      const isPart = portion !== shown || edit !== looked.document;
      if (isPart) this.#pool.tell({ type: 'shown', shown: { document: portion, edit } });
      let isFinished = true;
      for (const step of jobsOf(update)) isFinished &&= await this.#pool.run(step, this.#bandFor(step, portion, viewport));
      if (isPart) this.#pool.tell({ type: 'shown', shown: null });
      if (!isFinished) {
        this.#viewport = null; // half-rendered
        this.#again = true;
        return;
      }
      noteUpdate(viewport, portion, update.job, edit);
      forgetBackdrops(viewport, portion, looked.look.layerId);
      changed = changed ? union(changed, update.changed) : update.changed;
      if (update.job.layers.some(({ id, maskDirty }) => id === looked.look.layerId && maskDirty)) this.#contoursSoon();
    }
    if (changed && viewport.beyond) this.#contoursSoon();
    if (changed) this.#painter.update(viewport, looked.look.lit ? viewport.area : changed, looked.look, edit);
    if (compared && viewport.beforeOf !== compared) {
      viewport.beforeOf = null;
      if (await this.#pool.run({ type: 'before', document: compared }, 64)) {
        viewport.beforeOf = compared;
        this.#painter.forgetBefore();
      } else this.#again = true;
    }
    if (!compared && viewport.beforeOf) {
      viewport.beforeOf = null;
      this.#painter.forgetBefore();
    }
    this.draw();
    this.#send({ type: 'out of gamut', out: outOfGamut(viewport, looked.look.proof) });
    this.#send({ type: 'painted', seq });
    this.#painted(viewport);
  }

  /** How high the bands are in which tile workers take a job. */
  #bandFor(job: TileJob, document: UmboDocument, { area, scale }: Viewport): number {
    if (job.type === 'below') return 64;
    const share = Math.max(32, Math.ceil((job.type === 'render' ? job.rect : area).height / this.#pool.size));
    if (job.type !== 'render') return share;
    // With masks to render, bands high enough that their margins do not dominate; else small ones, which all workers end together.
    return Math.min(share, job.layers.some(({ maskDirty }) => maskDirty) ? Math.max(64, 2 * documentReach(document, scale)) : 32);
  }

  async #openViewport(view: View): Promise<Viewport | null> {
    const { full } = this.#looked;
    const document = stagedOf(this.#looked);
    const picture = pictureSize(full, view.zoom);
    const scale = scaleOf(document, picture);
    const visible = visibleArea(picture, full, view, this.#stage);
    if (visible.width < 1 || visible.height < 1) return null;
    const viewport = createViewport(scale, visible, this.#reach(scale), filtersReach(document, scale), {
      display: this.#display,
      proof: this.#proof,
    });
    const level = levelFor(full, picture.width);
    const size = levelSize(full, level);
    const perRow = size.height / picture.height;
    const from = Math.floor(viewport.source.area.y * perRow) - KERNEL_ROWS;
    const to = Math.ceil((viewport.source.area.y + viewport.source.area.height) * perRow) + KERNEL_ROWS;
    const raster = await this.#levels.rows(level, from, to, (share) => this.#send({ type: 'loading', share }));
    this.#viewport = null; // from here on the tile workers know the new viewport only
    const { area, source, display, rgba, result, beyond, below, before } = viewport;
    this.#pool.tell({ type: 'proof', proof: viewport.proof });
    this.#pool.tell({ type: 'viewport', viewport: { scale, area, source, display, rgba, result, beyond, below, before } });
    const finished = await this.#pool.run({ type: 'source', level: raster, levelSize: size }, 64);
    if (!finished) this.#again = true;
    return finished ? viewport : null;
  }

  #contoursSoon(): void {
    clearTimeout(this.#contourTimer);
    this.#contourTimer = setTimeout(
      () => {
        if (this.#view) this.#painter.updateContours(this.#looked.look, this.#view);
        this.draw();
      },
      this.#looked.look.maskView === 'contours' ? CONTOURS_AFTER_MS : 0,
    );
  }

  /** Tells the colours at a place of the stage: of the very pixel that is drawn there. */
  probe(x: number, y: number, id: number, around: boolean): void {
    const viewport = this.#viewport;
    if (!viewport?.rendered || !this.#view) return;
    const { full, look } = this.#looked;
    const document = stagedOf(this.#looked);
    const { area, source } = viewport;
    const place = placement(viewport, this.#view, full);
    const { framing } = this.#view;
    const lies = framing && framingAt(viewport.scale, framing);
    const toPhotograph = (dx: number, dy: number): [number, number] => {
      const [ox, oy] = [Math.floor((x - place.x) / place.perPixel) + dx, Math.floor((y - place.y) / place.perPixel) + dy];
      if (!lies) return [ox, oy];
      if (ox < 0 || oy < 0 || ox >= lies.size.width || oy >= lies.size.height) return [-1, -1];
      const [u, v] = project(lies.toPhotograph, ox + 0.5, oy + 0.5);
      return [Math.floor(u), Math.floor(v)];
    };
    const [px, py] = toPhotograph(0, 0);
    if (px < area.x || py < area.y || px >= area.x + area.width || py >= area.y + area.height) return;
    const at = (py - area.y) * area.width + px - area.x;
    const from = (py - source.area.y) * source.area.width + px - source.area.x;
    const before = [source.r, source.g, source.b].map((plane) => quantise(plane[from]! / 65535, 255)) as unknown as Triple;
    const mask = look.layerId ? viewport.masks.get(look.layerId) : undefined;
    this.#send({
      type: 'probed',
      id,
      before,
      below: look.layerId === null ? null : backdropColour(viewport, document, look.layerId, { x: px, y: py, width: 1, height: 1 }),
      after: [0, 1, 2].map((c) => quantise(resultAt(viewport, at, c as 0 | 1 | 2), 255)) as unknown as Triple,
      mask: mask ? mask.values[at]! / 65535 : null,
      around: around ? pixelsAround(viewport, toPhotograph) : null,
    });
  }
}

/** How much of a viewport is out of the gamut that is warned of. */
function outOfGamut({ beyond }: Viewport, proof: ProofChoice | null): OutOfGamut | null {
  if (!beyond || !proof || proof.warnFrom === null) return null;
  const from = (proof.warnFrom / FARTHEST) * 65535;
  let [count, most] = [0, 0];
  for (const v of beyond) {
    if (v > from) count++;
    if (v > most) most = v;
  }
  return { share: count / beyond.length, most: (most / 65535) * FARTHEST };
}

/** A square of the viewport's pixels about one of them; transparent where the viewport ends. @param place of a pixel so far from the middle one */
function pixelsAround({ area, rgba, display }: Viewport, place: (dx: number, dy: number) => [number, number]): PictureThumbnail {
  const out = new Uint8ClampedArray(MAGNIFIED * MAGNIFIED * 4);
  const reach = (MAGNIFIED - 1) / 2;
  for (let y = 0; y < MAGNIFIED; y++)
    for (let x = 0; x < MAGNIFIED; x++) {
      const [px, py] = place(x - reach, y - reach);
      const [fx, fy] = [px - area.x, py - area.y];
      if (fx < 0 || fy < 0 || fx >= area.width || fy >= area.height) continue;
      const at = (fy * area.width + fx) * 4;
      out.set(rgba.subarray(at, at + 4), (y * MAGNIFIED + x) * 4);
    }
  return { width: MAGNIFIED, height: MAGNIFIED, rgba: out, space: display };
}
