import { adjustment } from '../adjust/registry.ts';
import type { AnySettings, Kind } from '../base/kind.ts';
import type { CanBePulled } from '../colour/pull.ts';
import type { TakesColour } from '../colour/takesColour.ts';
import { isSource, sourceKind } from '../content/registry.ts';
import type { Content } from './types.ts';

type ContentKind = Kind<AnySettings> & TakesColour<AnySettings> & CanBePulled<AnySettings>;

/** What is known of the kind of content that a layer has; null for groups, which are layers rather than settings. */
export function contentKind(what: Content): ContentKind | null {
  if ('layers' in what) return null;
  return isSource(what) ? sourceKind(what.kind) : adjustment(what.kind);
}
