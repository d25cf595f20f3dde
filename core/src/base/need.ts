import { Type } from '@sinclair/typebox';

/** What settings need rendered or loaded beside the photograph's own pixels in the region. */
export type Need =
  /** All of the photograph, at its {@link overviewLevel}. */
  | { readonly kind: 'overview' }
  /** Another photograph, or a mask, of the shoot: the SHA-256 of its file. */
  | { readonly kind: 'photograph'; readonly sha256: string }
  /** The picture below the layer: rendered, not loaded. */
  | { readonly kind: 'backdrop' }
  /** What the layer itself shows, before its mask: rendered, not loaded. */
  | { readonly kind: 'source' };

/** What has to be loaded before anything can be rendered: once in the browser, once on the server. */
export type PictureNeed = Exclude<Need, { kind: 'backdrop' | 'source' }>;

export const OVERVIEW: PictureNeed = { kind: 'overview' };
export const BACKDROP: Need = { kind: 'backdrop' };
export const SOURCE: Need = { kind: 'source' };

export const isPictureNeed = (need: Need): need is PictureNeed => need.kind !== BACKDROP.kind && need.kind !== SOURCE.kind;

/** Two needs are the same where their keys are. */
export const keyOf = (need: Need): string => Object.values(need).join(' ');

/** How settings name another photograph: by the content of its file, so that it means the same in every database; '' while none is chosen. */
export const photographName = Type.String({ pattern: '^([0-9a-f]{64})?$' });

/** The need of settings that name another photograph. */
export const needOf = (photograph: string): readonly PictureNeed[] =>
  photograph === '' ? [] : [{ kind: 'photograph', sha256: photograph }];
