/** What of the edit is looked at. */
import type { BenchState } from './benchState';

/** Only the selected layer is shown, or all again. */
export function peekSolo({ look, layerId, setLook }: BenchState): void {
  setLook({ peek: { solo: look.peek.solo === layerId ? null : layerId, upTo: null } });
}

/** The picture as it is after a layer ('photograph': before any), or after all again. */
export function peekUpTo({ look, setLook }: BenchState, id: string | null): void {
  setLook({ peek: { solo: null, upTo: look.peek.upTo === id ? null : id } });
}
