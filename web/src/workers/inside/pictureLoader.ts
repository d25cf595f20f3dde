import {
  keyOf,
  levelFor,
  levelSize,
  overviewLevel,
  type LoadedPicture,
  type PictureNeed,
  type Scale,
  type Size,
  type SpaceId,
} from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import { picturesNeeded } from '@umbo/core/render';
import type { Other } from '../protocol';
import { Levels } from './levels';

interface Found {
  full: Size;
  levels: Levels;
  level: number;
}

export interface LoaderEvents {
  progress: (share: number) => void;
  loaded: (need: PictureNeed, picture: LoadedPicture) => void;
  /** What was drawn without a picture, or with a coarser one, is out of date. */
  refined: (need: PictureNeed) => void;
}

/** Loads what edits need beside the photograph's own pixels. */
export class PictureLoader {
  readonly #own: { full: Size; levels: Levels };
  readonly #space: SpaceId;
  readonly #others = new Map<string, { full: Size; levels: Levels }>();
  /** The level that is loaded, by the key of the need. */
  readonly #loaded = new Map<string, number>();
  readonly #events: LoaderEvents;

  /** @param space in which pictures are loaded */
  constructor(own: { full: Size; levels: Levels }, space: SpaceId, others: readonly Other[], events: LoaderEvents) {
    this.#own = own;
    this.#space = space;
    this.#events = events;
    others.forEach((other) => this.add(other));
  }

  /** Another photograph, or a mask, of the shoot; photographs go before masks of the same content. */
  add(other: Other): void {
    if (other.isMask && this.#others.has(other.sha256)) return;
    this.#others.set(other.sha256, {
      full: { width: other.width, height: other.height },
      levels: new Levels(other, { workingSpace: this.#space }),
    });
  }

  has(need: PictureNeed): boolean {
    return this.#loaded.has(keyOf(need));
  }

  /**
   * Loads what documents need to be rendered at a scale. What is not in the shoot is left out.
   * @param viewed regions whose masks are looked at
   */
  async load(documents: readonly UmboDocument[], scale: Scale, viewed: (regionId: string) => boolean = () => false): Promise<void> {
    for (const need of documents.flatMap((document) => picturesNeeded(document, viewed))) {
      const found = this.#find(need, scale);
      const known = this.#loaded.get(keyOf(need));
      if (!found || (known !== undefined && known <= found.level)) continue;
      const { full, levels, level } = found;
      const raster = await levels.rows(level, 0, levelSize(full, level).height, this.#events.progress);
      this.#loaded.set(keyOf(need), level);
      this.#events.loaded(need, { full, level: raster });
      // An overview is always there before the first mask that needs it, and there is one level of it only.
      if (need.kind !== 'overview') this.#events.refined(need);
    }
  }

  #find(need: PictureNeed, { picture, full }: Scale): Found | null {
    if (need.kind === 'overview') return { ...this.#own, level: overviewLevel(this.#own.full) };
    const other = this.#others.get(need.sha256);
    return other ? { ...other, level: levelFor(other.full, Math.ceil(other.full.width * Math.min(1, picture.width / full.width))) } : null;
  }
}
