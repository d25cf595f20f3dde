import type { ColourSpace } from './space.ts';

/** Keeps what is made from settings as long as those are the same object: settings in documents never change in place. */
export function madeOnce<S extends object, T>(make: (settings: S) => T): (settings: S) => T {
  const made = new WeakMap<S, T>();
  return (settings) => {
    let known = made.get(settings);
    if (known === undefined) made.set(settings, (known = make(settings)));
    return known;
  };
}

/** The same for what also depends on the space: the one it was asked for last. */
export function madeOnceIn<S extends object, T>(make: (space: ColourSpace, settings: S) => T): (space: ColourSpace, settings: S) => T {
  const made = new WeakMap<S, { space: ColourSpace; value: T }>();
  return (space, settings) => {
    let known = made.get(settings);
    if (known?.space !== space) made.set(settings, (known = { space, value: make(space, settings) }));
    return known.value;
  };
}
