import type { AnySettings } from '../base/kind.ts';
import { channel } from './sources/channel.ts';
import { fill } from './sources/fill.ts';
import { frame } from './sources/frame.ts';
import { joined } from './sources/joined.ts';
import { paint } from './sources/paint.ts';
import { self } from './sources/self.ts';
import type { Source } from './source.ts';

/** Every kind of content with colours of its own, in the order in which it is offered. */
export const sources = [fill, paint, self, frame, joined, channel] as const;

type ContentOf<A> = A extends Source<infer K, infer S> ? { kind: K; settings: S } : never;
/** What a layer with colours of its own shows: one kind and its settings. */
export type SourceContent = ContentOf<(typeof sources)[number]>;

/** A source of whatever kind. */
export type AnySource = Source<string, AnySettings>;

const byKind = new Map<string, AnySource>(sources.map((one) => [one.kind, one as unknown as AnySource]));

export function isSource(content: { kind: string }): content is SourceContent {
  return byKind.has(content.kind);
}

/** Whether a layer with this content shows something by itself, whatever is below it, that masks can look at. */
export const showsOwn = (content: { kind: string }): boolean => isSource(content) && sourceKind(content.kind).raster !== undefined;

/** @throws RangeError for a kind that is not registered */
export function sourceKind(kind: SourceContent['kind']): AnySource {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no source "${kind}"`);
  return found;
}
