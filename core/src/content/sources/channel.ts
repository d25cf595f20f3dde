import { CHANNEL_MODELS, channelPlane, CHANNELS, channelSchema, channelWords, modelName, type Channel } from '../../colour/channels.ts';
import type { Source } from '../source.ts';

export type ChannelSettings = Channel;

/** One channel of the picture below as a grey. */
export const channel: Source<'channel', ChannelSettings> = {
  kind: 'channel',
  name: 'Channel',
  explains: 'One channel of the picture as grey',
  schema: channelSchema,
  create: () => ({ model: 'rgb', channel: 'r' }),
  controls: [
    { key: 'model', label: 'Model', options: CHANNEL_MODELS.map((model) => [model, modelName(model)] as const) },
    ...CHANNEL_MODELS.map((model) => ({
      key: 'channel' as const,
      label: 'Channel',
      options: CHANNELS[model],
      when: (settings: ChannelSettings) => settings.model === model,
    })),
  ],
  summary: channelWords,
  draw(settings, { space, tile }, backdrop, source, cover) {
    const n = tile.width * tile.height;
    channelPlane(space, settings, backdrop, n, source.r);
    source.g.set(source.r.subarray(0, n));
    source.b.set(source.r.subarray(0, n));
    cover.fill(1, 0, n);
  },
};
