/** The tables of a soft proof, as the server makes them. */
import type { Lattice, SpaceId } from '@umbo/core/base';
import { proofAddress } from '../../ui/addresses';
import type { Proof, ProofChoice } from '../protocol';

/** @throws Error with a sentence */
export async function loadProof(choice: ProofChoice, space: SpaceId, display: SpaceId): Promise<Proof> {
  const response = await fetch(proofAddress(choice, space, display));
  if (!response.ok) {
    const { detail } = (await response.json().catch(() => ({}))) as { detail?: string };
    throw new Error(detail ?? `The proof could not be made (${response.status}).`);
  }
  const values = new Float32Array(await response.arrayBuffer());
  const points = values.length / 4;
  const size = Math.round(Math.cbrt(points));
  const lattice = (of: Float32Array): Lattice => ({ size, min: [0, 0, 0], max: [1, 1, 1], values: of });
  const beyond = new Float32Array(points * 3);
  for (let i = 0; i < points; i++) beyond.fill(values[points * 3 + i]!, i * 3, i * 3 + 3);
  return { shown: lattice(values.slice(0, points * 3)), beyond: choice.warnFrom === null ? null : lattice(beyond) };
}
