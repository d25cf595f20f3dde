/** The tables of a proof, as the server makes them through LittleCMS: over the encoded colours of a space. */
import type { SpaceId } from '@umbo/core/base';
import { gamutOf, type Gamut } from '@umbo/core/colour';
import { proofAddress } from '../ui/addresses';
import { reach } from '../ui/reach';

type Choice = Parameters<typeof proofAddress>[0];

export interface ProofTables {
  /** Points along each side. */
  readonly size: number;
  /** Encoded colours of the display, three for each point. */
  readonly shown: Float32Array;
  /** How far each point comes back from itself, in ΔE00. */
  readonly beyond: Float32Array;
}

/** @throws Error with a sentence */
export async function fetchProofTables(choice: Choice, space: SpaceId, display: SpaceId): Promise<ProofTables> {
  const response = await reach(proofAddress(choice, space, display));
  if (!response.ok) {
    const { detail } = (await response.json().catch(() => ({}))) as { detail?: string };
    throw new Error(detail ?? `The proof could not be made (${response.status}).`);
  }
  const values = new Float32Array(await response.arrayBuffer());
  const points = values.length / 4;
  return { size: Math.round(Math.cbrt(points)), shown: values.slice(0, points * 3), beyond: values.slice(points * 3) };
}

/** What a profile holds, as edits keep it. @throws Error with a sentence */
export async function fetchGamut(profile: string, name: string, space: SpaceId): Promise<Gamut> {
  const { size, beyond } = await fetchProofTables({ profile, intent: 'relative', black: false, paper: false }, space, space);
  return gamutOf(name, space, size, beyond);
}
