'use client';
import { gradientRamp, onLayer, source, type Colour, type FillSettings, type GradientStop, type Layer } from '@umbo/core';
import { Plus, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import styled from 'styled-components';
import { Hint, IconButton } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { ColourEditor } from './ColourEditor';
import { cssOf } from './colourModels';
import { useBench, useBenchStore } from './context';
import { Palettes } from './Palettes';
import { Settings } from './Settings';
import { ShareSlider } from './ShareSlider';

const Ramp = styled.div`
  position: relative;
  height: 34px;
  margin: 4px 6px 6px;
  > i {
    position: absolute;
    inset: 0 0 14px;
    border-radius: 2px;
    border: 1px solid var(--line);
  }
  button {
    position: absolute;
    top: 12px;
    width: 13px;
    height: 20px;
    margin-left: -6.5px;
    padding: 0;
    border: 2px solid var(--raised);
    outline: 1px solid var(--ink);
    border-radius: 2px;
    touch-action: none;
    cursor: ew-resize;
  }
  button[aria-pressed='true'] {
    border-color: var(--ink);
  }
  button:focus-visible {
    outline-width: 3px;
  }
`;
const Line = styled.div`
  display: flex;
  gap: 6px;
  justify-content: flex-end;
  margin-bottom: 2px;
`;

/** A fill: its colour, or the stops of its gradient. */
export function FillEditor({ layer, settings }: { layer: Layer; settings: FillSettings }) {
  const store = useBenchStore();
  const chosen = useBench((state) => state.stop);
  const kind = source('fill');
  const { photograph } = store.getState();
  const onFill = (change: (fill: FillSettings) => void) =>
    onLayer(layer.id, ({ what }) => {
      if (what.kind === 'fill') change(what.settings);
    });
  const at = Math.min(chosen, settings.stops.length - 1);
  const stop = settings.stops[at]!;
  const setStop = (values: Partial<GradientStop>) => onFill((fill) => void Object.assign(fill.stops[at]!, values));
  const setStopColour = (colour: Colour) => onFill((fill) => void Object.assign(fill.stops[at]!.colour, colour));
  const commitStop = (words: string, values: Partial<GradientStop>): boolean =>
    store.getState().commit(`${words} on ${layer.name}`, setStop(values));
  return (
    <>
      <Settings
        settings={settings}
        defaults={kind.create(photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={(values) => store.getState().preview(onFill((fill) => void Object.assign(fill, values)))}
        commit={(words, values) =>
          store.getState().commit(
            `${words} on ${layer.name}`,
            onFill((fill) => void Object.assign(fill, values)),
          )
        }
      />
      {settings.shape === 'colour' ? (
        <ColourEditor
          label="Fill colour"
          colour={settings.colour}
          onPreview={(colour) => store.getState().preview(onFill((fill) => void Object.assign(fill.colour, colour)))}
          onCommit={(colour) =>
            store.getState().commit(
              `Colour on ${layer.name}`,
              onFill((fill) => void Object.assign(fill.colour, colour)),
            )
          }
        />
      ) : (
        <>
          <GradientStops
            stops={settings.stops}
            chosen={at}
            choose={(next) => store.getState().set({ stop: next })}
            onPreview={(place) => store.getState().preview(setStop({ at: place }))}
            onCommit={(place) => commitStop('Stop moved', { at: place })}
            onCancel={() => store.getState().cancelPreview()}
          />
          <Line>
            <Hint text="A stop beside this one">
              <IconButton
                aria-label="New stop"
                isDisabled={settings.stops.length >= 16}
                onPress={() => {
                  const next = stop.at < 1 ? Math.min(1, stop.at + 0.15) : Math.max(0, stop.at - 0.15);
                  const ramp = gradientRamp(settings.stops);
                  const k = Math.round(next * (ramp.r.length - 1));
                  const fresh: GradientStop = {
                    at: next,
                    colour: [ramp.r[k]!, ramp.g[k]!, ramp.b[k]!].map((v) => Math.max(0, Math.min(1, v))) as GradientStop['colour'],
                    opacity: ramp.a[k]!,
                  };
                  store.getState().commit(
                    `New stop on ${layer.name}`,
                    onFill((fill) => void (fill.stops = [...settings.stops, structuredClone(fresh)])),
                  );
                  store.getState().set({ stop: settings.stops.length });
                }}
              >
                <Plus size={14} strokeWidth={1.5} />
              </IconButton>
            </Hint>
            <Hint text="Remove the stop">
              <IconButton
                aria-label="Remove the stop"
                isDisabled={settings.stops.length <= 2}
                onPress={() => {
                  store.getState().commit(
                    `Stop removed on ${layer.name}`,
                    onFill((fill) => void (fill.stops = settings.stops.filter((_, i) => i !== at))),
                  );
                  store.getState().set({ stop: 0 });
                }}
              >
                <Trash2 size={14} strokeWidth={1.5} />
              </IconButton>
            </Hint>
          </Line>
          <Slider
            label="Stop at"
            value={stop.at * 100}
            min={0}
            max={100}
            step={1}
            neutral={0}
            unit="%"
            onPreview={(v) => store.getState().preview(setStop({ at: v / 100 }))}
            onCommit={(v) => commitStop(`Stop at ${Math.round(v)} %`, { at: v / 100 })}
          />
          <ShareSlider
            label="Stop opacity"
            value={stop.opacity}
            words={(percent) => `Stop opacity ${percent} on ${layer.name}`}
            recipe={(opacity) => setStop({ opacity })}
          />
          <ColourEditor
            label="Stop colour"
            colour={stop.colour}
            onPreview={(colour) => store.getState().preview(setStopColour(colour))}
            onCommit={(colour) => store.getState().commit(`Stop colour on ${layer.name}`, setStopColour(colour))}
          />
        </>
      )}
      <Palettes colour={settings.shape === 'colour' ? settings.colour : stop.colour} />
    </>
  );
}

/** The stops on their ramp. */
function GradientStops(props: {
  stops: readonly GradientStop[];
  chosen: number;
  choose: (stop: number) => void;
  onPreview: (at: number) => void;
  onCommit: (at: number) => void;
  onCancel: () => void;
}) {
  const { stops, chosen, choose } = props;
  /** Where a stop is being dragged to; null while none is. */
  const dragged = useRef<number | null>(null);
  const sorted = [...stops].sort((a, b) => a.at - b.at);
  const ramp = sorted.map(({ at, colour, opacity }) => `${cssOf(colour).replace(')', ` / ${opacity})`)} ${at * 100}%`).join(', ');
  const share = (event: { clientX: number; currentTarget: Element }): number => {
    const { left, width } = event.currentTarget.parentElement!.getBoundingClientRect();
    return Math.max(0, Math.min(1, (event.clientX - left) / width));
  };
  return (
    <Ramp>
      <i style={{ background: `linear-gradient(to right in oklab, ${ramp})` }} />
      {stops.map(({ at, colour }, i) => (
        <button
          key={i}
          type="button"
          aria-label={`Stop ${i + 1}, at ${Math.round(at * 100)} %`}
          aria-pressed={i === chosen}
          style={{ left: `${at * 100}%`, background: cssOf(colour) }}
          onClick={() => choose(i)}
          onPointerDown={(event) => {
            choose(i);
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => {
            if (i !== chosen || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
            dragged.current = share(event);
            props.onPreview(dragged.current);
          }}
          onPointerUp={() => {
            if (dragged.current !== null) props.onCommit(dragged.current);
            dragged.current = null;
          }}
          onPointerCancel={() => {
            dragged.current = null;
            props.onCancel();
          }}
        />
      ))}
    </Ramp>
  );
}
