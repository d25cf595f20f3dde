/** The tables of a soft proof, as colours are sent through them. */
import type { Lattice, SpaceId } from '@umbo/core/base';
import { fetchProofTables } from '../../profiles/proofTables';
import type { Proof, ProofChoice } from '../protocol';

/** @throws Error with a sentence */
export async function loadProof(choice: ProofChoice, space: SpaceId, display: SpaceId): Promise<Proof> {
  const { size, shown, beyond } = await fetchProofTables(choice, space, display);
  const lattice = (values: Float32Array): Lattice => ({ size, min: [0, 0, 0], max: [1, 1, 1], values });
  const three = new Float32Array(beyond.length * 3);
  for (const [i, v] of beyond.entries()) three.fill(v, i * 3, i * 3 + 3);
  return { shown: lattice(shown), beyond: choice.warnFrom === null ? null : lattice(three) };
}
