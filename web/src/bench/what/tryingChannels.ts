'use client';
/** Channels of a layer's masked region, tried in turn. */
import { channelWords, type Channel } from '@umbo/core/colour';
import { findLayer, onLayer, type Layer } from '@umbo/core/document';
import { CHANNEL_MODES, type TriedChannel } from '@umbo/core/measure';
import type { BenchState } from '../state/benchState';

export const sameChannel = (a: Channel, b: Channel): boolean => a.model === b.model && a.channel === b.channel;

/** The mode in which channels are tried: the layer's own, where that is one of those. */
export const triedMode = ({ how }: Layer): string => CHANNEL_MODES.find((mode) => mode === how.mode) ?? CHANNEL_MODES[0];

/** All channels in the mode of a layer, those first that have most contrast where its mask lets them in. */
export const tryChannels = (state: BenchState, layer: Layer): Promise<TriedChannel[]> =>
  state.measure({ kind: 'triedChannels', settings: { mode: triedMode(layer) } }, layer.id, { quietly: true });

/** The next (1) or previous (-1) channel of a layer that shows one, by how much contrast it gives. */
export async function stepChannel(now: () => BenchState, by: 1 | -1): Promise<void> {
  const layer = findLayer(now().committed, now().layerId);
  if (layer?.what.kind !== 'channel') return;
  const { settings } = layer.what;
  try {
    const tried = await tryChannels(now(), layer);
    const at = tried.findIndex(({ channel }) => sameChannel(channel, settings));
    // What was chosen meanwhile counts.
    if (findLayer(now().committed, layer.id) === layer) chooseChannel(now(), layer, tried.at((at + by) % tried.length)!.channel);
  } catch (error) {
    now().set({ notice: `The channels could not be tried. ${(error as Error).message}` });
  }
}

export function chooseChannel(state: BenchState, layer: Layer, channel: Channel): void {
  state.commit(
    `${channelWords(channel)} on ${layer.name}`,
    onLayer(layer.id, ({ what }) => void Object.assign(what.settings, channel)),
  );
}
