import type { AdjustmentContent, SettingsOf } from '../adjust/registry.ts';
import type { Layer } from '../document/types.ts';

/** Changes a layer's settings in place where the layer is of a kind that can hold what was found. */
export function writeContent<K extends AdjustmentContent['kind']>(layer: Layer, kind: K, write: (settings: SettingsOf<K>) => void): void {
  if (layer.what.kind === kind) write(layer.what.settings as SettingsOf<K>);
}
