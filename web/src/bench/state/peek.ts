/** What of the edit is looked at. */
import type { BenchState } from './benchState';

/** Only the selected layer is shown, or all again. */
export function peekSolo({ look, layerId, setLook }: BenchState): void {
  setLook({ peek: { solo: look.peek.solo === layerId ? null : layerId, upTo: null } });
}

/** The selected layer acts as if it had no mask, or with it again. */
export function peekUnmasked({ look, layerId, setLook }: BenchState): void {
  const unmasked = look.peek.unmasked === layerId ? null : layerId;
  setLook({ peek: { solo: null, upTo: null, ...(unmasked !== null && { unmasked }) } });
}

/** The picture as it is after a layer ('photograph': before any), or after all again. */
export function peekUpTo({ look, setLook }: BenchState, id: string | null): void {
  setLook({ peek: { solo: null, upTo: look.peek.upTo === id ? null : id } });
}
