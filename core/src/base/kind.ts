import type { TObject } from '@sinclair/typebox';
import type { Control } from './control.ts';
import type { Dial } from './dial.ts';
import type { ColourSpace } from './space.ts';
import type { Fit } from './fit.ts';
import type { Size } from './geometry.ts';
import type { Handle, TypedNumber } from './handle.ts';
import type { Need } from './need.ts';
import type { Weight } from './weight.ts';

/** Settings of whatever kind, for those who pass them on without looking into them: only the kind itself knows what they hold. */
export type AnySettings = Record<string, unknown>;

/** What a solver begins from: the colours below, encoded, 0..1. */
export interface DialView {
  readonly space: ColourSpace;
  readonly colours: readonly (readonly [number, number, number])[];
}

/** What every kind of thing with settings tells of itself: mask parts, sources and adjustments. */
export interface Kind<S> {
  /** Whether it goes by the picture's frame instead of the photograph: places of its handles are then the picture's, too. */
  readonly framed?: true;
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  /** The settings that the desk offers, in its order, beside an editor that the kind may have. */
  readonly controls: readonly Control<S>[];
  /** What has to be there before anything with these settings can be rendered; left out: nothing. */
  readonly needs?: (settings: S) => readonly Need[];
  /** What of the settings is heavy; left out: nothing. */
  readonly weight?: (settings: S) => Weight;
  /** Changes settings in place so that they suit a photograph of another size, or lie elsewhere; left out where they have no place. */
  readonly fit?: (settings: S, fit: Fit) => void;
  /** What of the settings a solver may turn so that these colours become others; left out: nothing. */
  readonly dials?: (settings: S, from: DialView) => readonly Dial<S>[];
  /** The families of hues, of eight, that these settings turn far, and by how much, in percent; left out: none. */
  readonly turnsFar?: (settings: S) => readonly { readonly id: string; readonly by: number }[];
  /** Settings of a new one that a solver begins with, in place; left out: those that every new one has. */
  readonly solvable?: (settings: S) => void;
  /** The tool with which a new one is worked on first; left out: none in particular. */
  readonly tool?: 'paint' | 'outline' | 'catch';
  /** The places on the photograph by which the settings can be changed. @param full the photograph's size */
  readonly handles?: (settings: S, full: Size) => readonly Handle[];
  /** What of its place can be typed; left out, or none with these settings: nothing. */
  readonly numbers?: (settings: S) => readonly TypedNumber<S>[];
  /** Changes settings in place: a handle is elsewhere now. */
  readonly moveHandle?: (settings: S, name: string, x: number, y: number, full: Size) => void;
}
