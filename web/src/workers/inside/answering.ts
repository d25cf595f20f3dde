import { spaces } from '@umbo/core/colour';
import { isEmpty, levelFor, levelSize, overviewLevel, wholeOf, type Raster, type Rect, type Size } from '@umbo/core/base';
import { peekAt, pictureSizeOf, scaleOf, waysOf, type UmboDocument } from '@umbo/core/document';
import { histogramOf, hueCensus } from '@umbo/core/measure';
import { neededArea, picturesNeeded } from '@umbo/core/render';
import { readingPlace } from '@umbo/core/solve';
import type {
  Ask,
  FromEngine,
  PictureQuestion,
  PictureThumbnail,
  PlacedAsk,
  PlacedQuestion,
  Question,
  SolveTask,
  Thumbnails,
} from '../protocol';
import type { Levels } from './levels';
import { EVERYTHING, type Looked } from './looked';
import type { PictureLoader } from './pictureLoader';
import { documentOf } from './questions';
import type { Rank, SideWorker } from './sideWorker';
import { thumbnailSize, thumbnailSource } from './thumbnails';

const THUMBNAILS_AFTER_MS = 250;
const GLIMPSE_AFTER_MS = 1000;
/** Longer side of the pictures of a colourway set's alternatives. */
const ALTERNATIVE_SIDE = 520;

/** The readings that are to become something, and those that they are to become. */
const idsOf = (wanted: SolveTask['wanted']): string[] =>
  wanted.flatMap(({ id, aim }) => (aim.kind === 'reading' ? [id, aim.reading] : [id]));

/** What is waited for by nobody gives way to everything; what a press waits for goes first. */
const RANK_OF: { readonly [K in Ask['kind']]?: Rank } = { solve: 'urgent', warnings: 'idle' };

/** Notes are made of a picture that is at least so long. */
const NOTES_SIDE = 512;
const longSide = ({ width, height }: Size): number => Math.max(width, height);

export interface AnsweringParts {
  looked: Looked;
  side: SideWorker;
  levels: Levels;
  loader: PictureLoader;
  send: (message: FromEngine) => void;
  fail: (error: unknown) => void;
  /** Whether the stage has its picture, which comes first. */
  stageIsReady: () => boolean;
  /** A small picture of the result is there. */
  small: (result: PictureThumbnail) => void;
}

/** Has a worker of its own answer what is asked beside the stage: questions, small pictures, what was measured. */
export class Answering {
  readonly #parts: AnsweringParts;
  #source: Raster | null = null;
  #hasThumbnails = false;
  #makingThumbnails = false;
  #thumbnailsAgain = false;
  #thumbnailTimer: ReturnType<typeof setTimeout> | undefined;
  /** The colourway set whose alternatives are shown beside each other. */
  #alternativesOf: string | null = null;
  #cards: readonly string[] = [];
  #alternativesRound = 0;
  #alternativesTimer: ReturnType<typeof setTimeout> | undefined;

  constructor(parts: AnsweringParts) {
    this.#parts = parts;
    this.#readSmallLevel().catch(parts.fail);
  }

  documentChanged(): void {
    this.thumbnailsSoon();
    if (this.#alternativesOf === null) return;
    clearTimeout(this.#alternativesTimer);
    this.#alternativesTimer = setTimeout(() => void this.#alternatives().catch(this.#parts.fail), THUMBNAILS_AFTER_MS);
  }

  /** Which layers' cards are in sight: only those get a picture. */
  setCards(ids: readonly string[]): void {
    this.#cards = ids;
    this.thumbnailsSoon();
  }

  /** The stage has a picture. */
  stagePainted(): void {
    if (!this.#hasThumbnails) this.thumbnailsSoon();
  }

  showAlternatives(setId: string | null): void {
    this.#alternativesOf = setId;
    void this.#alternatives().catch(this.#parts.fail);
  }

  async ask(ask: Ask, id: number): Promise<void> {
    const { looked, side, send } = this.#parts;
    // At every zoom the same: from the photograph's own pixels, or from the overview.
    const make = (): Promise<Question> => {
      if (ask.kind === 'read' || ask.kind === 'solve') return this.placed(ask);
      // Which layer it is shows on a small picture as well.
      if (ask.kind === 'behind') return this.#small(ask);
      const { full } = looked;
      if (ask.kind === 'warnings')
        return this.#question(ask, null, levelFor(full, (NOTES_SIDE * full.width) / longSide(full)), looked.document);
      if (ask.kind !== 'sample') return this.#question(ask, null, overviewLevel(full), looked.document);
      const shown = ask.below === null ? looked.document : peekAt(looked.document, { ...EVERYTHING, below: ask.below });
      return this.#question(ask, ask.area, 0, shown);
    };
    try {
      const answer = await side.ask(make, (share) => ask.kind !== 'warnings' && send({ type: 'asking', share }), RANK_OF[ask.kind]);
      send({ type: 'answered', id, answer });
    } catch (error) {
      send({ type: 'unanswered', id, message: (error as Error).message });
    }
    if (ask.kind !== 'warnings') send({ type: 'asking', share: 1 });
  }

  /** A question that a small picture is enough for. */
  async #small(ask: PictureQuestion['ask']): Promise<Question> {
    const { looked, loader } = this.#parts;
    const source = this.#source!;
    const scale = scaleOf(looked.document, source.area);
    await loader.load([looked.document], scale, () => true);
    return { ask, scale, source };
  }

  /** A question about readings, with the pixels that each is made from. */
  async placed(ask: PlacedAsk): Promise<Question> {
    const { looked, loader, levels } = this.#parts;
    const document = documentOf(looked.document, ask);
    const ids = ask.kind === 'read' ? ask.ids : idsOf(ask.wanted);
    const places: PlacedQuestion['places'] = new Map();
    for (const reading of looked.document.readings ?? []) {
      if (!ids.includes(reading.id)) continue;
      const { level, area } = readingPlace(reading, looked.full);
      if (isEmpty(area)) continue;
      const scale = scaleOf(document, levelSize(looked.full, level));
      await loader.load([document], scale, (id) => id === reading.id);
      const needed = neededArea(document, scale, area);
      places.set(reading.id, { scale, area, source: await levels.rows(level, needed.y, needed.y + needed.height) });
    }
    const small = ask.kind === 'solve' && ask.clips !== undefined ? this.#source : null;
    if (!small) return { ask, places, whole: null };
    const scale = scaleOf(document, small.area);
    await loader.load([document], scale, () => false);
    return { ask, places, whole: { scale, source: small } };
  }

  /** A question with the pixels that it is answered from. */
  async #question(ask: PictureQuestion['ask'], area: Rect | null, level: number, document: UmboDocument): Promise<Question> {
    const { looked, loader, levels } = this.#parts;
    const picture = levelSize(looked.full, level);
    const scale = scaleOf(document, picture);
    // Notes look at regions, also at those that no layer uses.
    await loader.load([document], scale, () => ask.kind === 'warnings');
    const needed = area ? neededArea(document, scale, area) : wholeOf(picture);
    const source = await levels.rows(level, needed.y, needed.y + needed.height);
    return { ask, scale, source };
  }

  /** Small pictures of the edit with each alternative of a set in turn; anew after every edit. */
  async #alternatives(): Promise<void> {
    const setId = this.#alternativesOf;
    if (setId === null) return;
    const { looked, levels, side, send } = this.#parts;
    const { full } = looked;
    const round = ++this.#alternativesRound;
    const size = thumbnailSize(full, pictureSizeOf(looked.document), ALTERNATIVE_SIDE);
    const level = levelFor(full, size.width);
    const raster = await levels.rows(level, 0, levelSize(full, level).height);
    const source = thumbnailSource(full, raster, size);
    const ways = waysOf(looked.document, setId);
    const pictures: Extract<FromEngine, { type: 'alternatives' }>['pictures'] = [];
    for (const { id } of ways) {
      const ask = { kind: 'alternative', setId, id } as const;
      const picture = await side.ask<PictureThumbnail>(async () => ({ ask, scale: scaleOf(looked.document, size), source }));
      if (round !== this.#alternativesRound) return;
      pictures.push({ id, picture });
      send({ type: 'alternatives', setId, wanted: ways.length, pictures });
    }
  }

  /** The smallest useful level serves the census and the thumbnails. */
  async #readSmallLevel(): Promise<void> {
    const { looked, send, stageIsReady } = this.#parts;
    const raster = await this.#readSource();
    const space = spaces[looked.document.workingSpace];
    // The stage comes first, and small pictures would only take its time; when it takes long, they are a first glimpse.
    this.thumbnailsSoon(stageIsReady() ? 0 : GLIMPSE_AFTER_MS);
    send({ type: 'measured', census: hueCensus(space, raster), histogram: histogramOf(space, raster) });
  }

  /** Reads what small pictures are made from. @returns the level that it is made from */
  async #readSource(): Promise<Raster> {
    const { looked, levels } = this.#parts;
    const size = thumbnailSize(looked.full, pictureSizeOf(looked.document));
    const level = levelFor(looked.full, size.width);
    const raster = await levels.rows(level, 0, levelSize(looked.full, level).height);
    this.#source = thumbnailSource(looked.full, raster, size);
    return raster;
  }

  thumbnailsSoon(ms = THUMBNAILS_AFTER_MS): void {
    clearTimeout(this.#thumbnailTimer);
    this.#thumbnailTimer = setTimeout(() => void this.#thumbnails().catch(this.#parts.fail), ms);
  }

  async #thumbnails(): Promise<void> {
    const { looked, loader, side, send, small } = this.#parts;
    if (this.#source && this.#source.area.width !== thumbnailSize(looked.full, pictureSizeOf(looked.document)).width)
      await this.#readSource();
    const source = this.#source;
    // The stage asks for them once it has what masks cannot do without.
    if (!source || picturesNeeded(looked.document).some((need) => need.kind === 'overview' && !loader.has(need))) return;
    // One round at a time: an edit lets the one under way begin anew.
    if (this.#makingThumbnails) return void (this.#thumbnailsAgain = true);
    this.#hasThumbnails = this.#makingThumbnails = true;
    this.#thumbnailsAgain = false;
    const { width, height } = source.area;
    try {
      // Of regions that nothing uses, only these small pictures are wanted.
      await loader.load([looked.document], scaleOf(looked.document, { width, height }), () => true);
      const { masks, cards, original, result, region, whole } = await side.ask<Thumbnails>(async () => ({
        ask: { kind: 'thumbnails', layerId: looked.look.layerId, cards: this.#cards },
        scale: scaleOf(looked.document, { width, height }),
        source,
      }));
      small(result);
      send({ type: 'thumbnails', masks, cards, original, result });
      send({ type: 'region', region, result: whole });
    } finally {
      this.#makingThumbnails = false;
      if (this.#thumbnailsAgain) this.thumbnailsSoon();
    }
  }
}
