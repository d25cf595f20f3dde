'use client';
/** Editors for what of an adjustment no slider can say. */
import { lutOf, lutSettings, type Driver, type SettingsOf } from '@umbo/core/adjust';
import { cleanName, shorten } from '@umbo/core/base';
import { NEUTRAL_KELVIN } from '@umbo/core/colour';
import { onLayer } from '@umbo/core/document';
import { parseCube, writeCube } from '@umbo/core/format';
import { Download, FolderOpen, Pipette } from 'lucide-react';
import { useRef, useState } from 'react';
import styled from 'styled-components';
import { Button, Choice, LabelledLine } from '@/ui/controls';
import { FileInput } from '@/ui/FileInput';
import { saveFile } from '@/ui/saveFile';
import { Slider } from '@/ui/Slider';
import { useKept } from '@/ui/useKept';
import type { AdjustmentProps } from './adjustmentProps';
import { cssOf } from '../colour/colourModels';
import { useBench, useBenchStore } from '../state/context';
import { Hills, ToneUnder, useTones } from '../ranges/Hills';
import { StopsEditor } from './StopsEditor';

const Line = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px;
  min-height: 30px;
  margin-top: 4px;
`;
const Quiet = styled.p`
  margin: 4px 0;
  color: var(--ink2);
`;
const RampBar = styled.div`
  height: 22px;
  border: 1px solid var(--line);
  border-radius: 2px;
  margin: 2px 6px 4px;
`;

/** Turns the sample tool on and off. */
function SampleButton({ children }: { children: string }) {
  const store = useBenchStore();
  const sampling = useBench((state) => state.tool === 'sample');
  return (
    <Button aria-pressed={sampling} $primary={sampling} onPress={() => store.getState().set({ tool: sampling ? 'move' : 'sample' })}>
      <Pipette size={14} strokeWidth={1.5} aria-hidden /> {children}
    </Button>
  );
}

const SCALES = [
  ['kelvin', 'Kelvin'],
  ['mired', 'Mired'],
] as const;

export function WhiteBalanceExtras({ settings, preview, commit }: AdjustmentProps<SettingsOf<'whiteBalance'>>) {
  const [scale, setScale] = useKept<'kelvin' | 'mired'>('temperature-scale', 'kelvin');
  const inMired = scale === 'mired';
  // Equal steps look about equal in mired; in kelvin they are what people know.
  const shown = (kelvin: number): number => (inMired ? 1e6 / kelvin : kelvin);
  const temperature = (v: number): { kelvin: number } => ({ kelvin: Math.max(2000, Math.min(25000, inMired ? 1e6 / v : v)) });
  return (
    <>
      <LabelledLine>
        Scale
        <Choice label="Scale of the temperature" value={scale} options={SCALES} onChange={setScale} />
      </LabelledLine>
      <Slider
        key={scale}
        label="Temperature"
        value={shown(settings.kelvin)}
        min={inMired ? 40 : 2000}
        max={inMired ? 500 : 25000}
        usual={inMired ? [80, 400] : [2500, 12000]}
        step={inMired ? 1 : 50}
        neutral={shown(NEUTRAL_KELVIN)}
        unit={inMired ? '' : 'K'}
        onPreview={(v) => preview(temperature(v))}
        onCommit={(v) => commit(`Temperature ${Math.round(v)} ${inMired ? 'mired' : 'K'}`, temperature(v))}
      />
      <Slider
        label="Tint"
        value={settings.tint}
        min={-150}
        max={150}
        step={1}
        neutral={0}
        signed
        onPreview={(tint) => preview({ tint })}
        onCommit={(tint) => commit(`Tint ${Math.round(tint)}`, { tint })}
      />
      <Quiet>The light that the photograph was taken in. A neutral grey in it tells.</Quiet>
      <Line>
        <SampleButton>Sample something neutral</SampleButton>
      </Line>
    </>
  );
}

const OverRamp = styled.svg`
  display: block;
  width: calc(100% - 12px);
  height: auto;
  margin: 6px 6px 0;
  background: var(--well);
`;
const HILLS = { width: 320, base: 34, height: 30 };

/** What the mask lets in by what drives a ramp, over the ramp. */
function RampHills({ layerId, driver }: { layerId: string; driver: Driver }) {
  const { bins, under } = useTones(layerId, driver);
  return (
    <OverRamp viewBox={`0 0 ${HILLS.width} ${HILLS.base}`} role="img" aria-label="What the mask lets in, over the ramp">
      <Hills bins={bins} {...HILLS} />
      {under !== null && <ToneUnder x={under * HILLS.width} top={0} base={HILLS.base} />}
    </OverRamp>
  );
}

export function GradientMapExtras({ layer, settings }: AdjustmentProps<SettingsOf<'gradientMap'>>) {
  return (
    <>
      <RampHills layerId={layer.id} driver={settings.driver} />
      <StopsEditor
        stops={settings.stops}
        on={layer.name}
        recipe={(change) =>
          onLayer(layer.id, ({ what }) => {
            if (what.kind === 'gradientMap') change(what.settings.stops);
          })
        }
      />
    </>
  );
}

export function EvenRampExtras({ layer, settings, commit }: AdjustmentProps<SettingsOf<'evenRamp'>>) {
  const store = useBenchStore();
  const [waiting, setWaiting] = useState(false);
  const derive = async (driver: Driver): Promise<void> => {
    setWaiting(true);
    try {
      const colours = await store.getState().solve({ kind: 'ramp', driver }, layer.id);
      if (colours.length === 0) store.getState().set({ notice: 'The mask lets nothing in that a ramp could be derived from.' });
      else commit('Ramp from the region', { colours });
    } catch (error) {
      store.getState().set({ notice: (error as Error).message });
    } finally {
      setWaiting(false);
    }
  };
  const { colours } = settings;
  return (
    <>
      <RampHills layerId={layer.id} driver={settings.driver} />
      {colours.length > 0 ? (
        <RampBar
          role="img"
          aria-label="Colours from the lowest to the highest value"
          style={{ background: `linear-gradient(to right in oklab, ${[...colours, colours.at(-1)!].map(cssOf).join(', ')})` }}
        />
      ) : (
        <Quiet>Derive a colour for each value from what the mask lets in: choose a region first.</Quiet>
      )}
      <Line>
        <Button $primary={colours.length === 0} isDisabled={waiting} onPress={() => void derive(settings.driver)}>
          {colours.length === 0 ? 'Derive the ramp' : 'Derive it anew'}
        </Button>
        {colours.length > 0 && <Button onPress={() => commit('Without a ramp', { colours: [] })}>Take it away</Button>}
      </Line>
    </>
  );
}

export function HazeExtras({ layer, commit }: AdjustmentProps<SettingsOf<'haze'>>) {
  const store = useBenchStore();
  const find = (): void => {
    store
      .getState()
      .solve({ kind: 'hazeLight' }, layer.id)
      .then(
        (light) => commit('Colour of the haze', { light }),
        (error: Error) => store.getState().set({ notice: error.message }),
      );
  };
  return (
    <Line>
      <Button onPress={find}>Find the haze’s colour</Button>
    </Line>
  );
}

/** A table of this many points a side fills the largest file that is read. */
const LARGEST_FILE = 20_000_000;

export function LutExtras({ layer, settings, commit }: AdjustmentProps<SettingsOf<'lut3d'>>) {
  const store = useBenchStore();
  const input = useRef<HTMLInputElement>(null);
  const isEmpty = settings.title === '' && settings.size === 2;
  const read = async (file: File): Promise<void> => {
    try {
      if (file.size > LARGEST_FILE) throw new RangeError('The file is larger than 20 MB.');
      const lut = parseCube(await file.text());
      const title = lut.title || shorten(cleanName(file.name.replace(/\.cube$/i, '')), 120) || 'Table';
      commit(`3D LUT ${title}`, lutSettings({ ...lut, title }));
    } catch (error) {
      store.getState().set({ notice: `“${file.name}” could not be read: ${(error as Error).message}` });
    }
  };
  return (
    <>
      <Quiet>
        {isEmpty ? 'No table yet: open a .cube file of 2 to 65 points a side.' : `“${settings.title}”, ${settings.size} points a side`}
      </Quiet>
      <Line>
        <FileInput input={input} label="A .cube file" accept=".cube" onFile={(file) => void read(file)} />
        <Button $primary={isEmpty} onPress={() => input.current?.click()}>
          <FolderOpen size={14} strokeWidth={1.5} aria-hidden /> {isEmpty ? 'Open a .cube file' : 'Open another'}
        </Button>
        {!isEmpty && (
          <Button onPress={() => saveFile(`${settings.title || layer.name}.cube`, writeCube(lutOf(settings)), 'text/plain')}>
            <Download size={14} strokeWidth={1.5} aria-hidden /> Save as .cube
          </Button>
        )}
      </Line>
    </>
  );
}
