'use client';
import { percent } from '@umbo/core/base';
import type { Histogram, Proposal } from '@umbo/core/measure';
import { BarChart3, Palette, Wand2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { Area, AreaChart, Bar, BarChart, Cell, ResponsiveContainer, YAxis } from 'recharts';
import styled from 'styled-components';
import { BareButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Num } from '@/ui/controls/Num';
import { useKept } from '@/ui/useKept';
import { CENSUS_START, HUE_NAMES } from '../ranges/HueRing';
import { useLight } from '../ranges/useLight';
import { useBench, useBenchStore } from '../state/context';
import { addFound } from '../state/measuring';
import { Narrow } from './Narrow';

const HueScale = styled.div`
  position: relative;
  height: 14px;
  border-top: 1px solid var(--ink);
  font-size: 10px;
  line-height: 14px;
  color: var(--ink2);
  span {
    position: absolute;
    transform: translateX(-50%);
  }
`;
const Ends = styled.div`
  display: flex;
  justify-content: space-between;
  height: 14px;
  border-top: 1px solid var(--ink);
  font-size: 10px;
  line-height: 14px;
  color: var(--ink2);
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
`;
const Swap = styled.span`
  display: flex;
  gap: 2px;
  margin-right: -4px;
`;

/** What the tones ask for, found when it is asked; each is one layer. */
function Proposals() {
  const store = useBenchStore();
  const [found, setFound] = useState<readonly Proposal[] | null>(null);
  const find = (isOpen: boolean): void => {
    setFound(null);
    if (!isOpen) return;
    const { measure, set } = store.getState();
    measure({ kind: 'proposals', settings: {} }, null).then(setFound, (error: Error) => set({ notice: error.message }));
  };
  const none = found ? 'Its tones ask for nothing' : 'Measuring…';
  return (
    <MenuTrigger onOpenChange={find}>
      <BareButton aria-label="Proposals for the tones">
        <Wand2 size={13} strokeWidth={1.5} />
      </BareButton>
      <Floating>
        <Menu
          disabledKeys={['none']}
          onAction={(id) => {
            const chosen = found!.filter((one) => one.id === id);
            addFound(store.getState(), 'proposals', chosen, chosen[0]!.words);
          }}
        >
          <MenuSection title="For the result as it is">
            {found && found.length > 0 ? (
              found.map(({ id, words }) => (
                <MenuItem key={id} id={id}>
                  {words}
                </MenuItem>
              ))
            ) : (
              <MenuItem id="none">{none}</MenuItem>
            )}
          </MenuSection>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}

const OF = [
  ['photograph', 'Original'],
  ['result', 'Result'],
  ['masked', 'Masked'],
] as const;
type Of = (typeof OF)[number][0];

/** What is in the photograph, the result, or what the layer's mask lets in: by hue, or by tone. */
export function Spread() {
  const [by, setBy] = useKept<'hues' | 'tones'>('spread', 'hues');
  const [of, setOf] = useState<Of>('photograph');
  const other = by === 'hues' ? 'Histogram' : 'Hue census';
  const Icon = by === 'hues' ? BarChart3 : Palette;
  return (
    <>
      <Head>
        <Narrow>
          <Choice label={by === 'hues' ? 'Whose hues' : 'Whose tones'} value={of} options={OF} onChange={setOf} />
        </Narrow>
        <Swap>
          {by === 'tones' && <Proposals />}
          <Hint text={other}>
            <BareButton aria-label={other} onPress={() => setBy(by === 'hues' ? 'tones' : 'hues')}>
              <Icon size={13} strokeWidth={1.5} />
            </BareButton>
          </Hint>
        </Swap>
      </Head>
      {by === 'hues' ? <Hues of={of} /> : <Tones of={of} />}
    </>
  );
}

/** Those that there is room for. */
const NAMED = HUE_NAMES.filter(([name]) => name !== 'cyan' && name !== 'magenta');

function Hues({ of }: { of: Of }) {
  const census = useBench(({ census: photograph, result, region, layerId }) =>
    of === 'photograph'
      ? photograph
      : of === 'result'
        ? (result?.census.oklch ?? null)
        : region?.layerId === layerId
          ? (region?.census.oklch ?? null)
          : null,
  );
  const data = useMemo(() => {
    if (!census) return [];
    const step = 360 / census.length;
    // From the left edge's hue on; the root shows small amounts beside large ones.
    return Array.from(census, (_, i) => {
      const bin = (i + Math.round(CENSUS_START / step)) % census.length;
      return { hue: (bin + 0.5) * step, amount: Math.sqrt(census[bin]!) };
    });
  }, [census]);
  const light = useLight(of === 'masked' ? 'below' : of, 'oklch', (share) => ((CENSUS_START + share * 360) % 360) / 360);
  return (
    <div role="img" aria-label="Which hues there are, by amount" style={{ marginTop: 6 }} {...light}>
      <ResponsiveContainer width="100%" height={48} initialDimension={{ width: 193, height: 48 }}>
        <BarChart data={data} margin={{ top: 2, right: 0, bottom: 0, left: 0 }} barCategoryGap={0} accessibilityLayer={false}>
          <YAxis hide domain={[0, 'dataMax']} />
          <Bar dataKey="amount" isAnimationActive={false}>
            {data.map(({ hue }) => (
              <Cell key={hue} fill={`oklch(0.68 0.13 ${hue})`} />
            ))}
          </Bar>
        </BarChart>
      </ResponsiveContainer>
      <HueScale>
        {NAMED.map(([name, hue]) => (
          <span key={name} style={{ left: `${Math.max(3, (((hue - CENSUS_START + 360) % 360) / 360) * 100)}%` }}>
            {name}
          </span>
        ))}
      </HueScale>
    </div>
  );
}

const CHANNELS = [
  ['luminosity', 'var(--ink2)', 0.25],
  ['red', '#c0392b', 0],
  ['green', '#2e8b57', 0],
  ['blue', '#2c5aa0', 0],
] as const;
/** Share of the pixels in which a channel is at an end, from which that is marked. */
const MARKED = 0.001;

function Tones({ of }: { of: Of }) {
  const histogram = useBench(({ histogram: photograph, result, region, layerId }): Histogram | null =>
    of === 'photograph'
      ? photograph
      : of === 'result'
        ? (result?.histogram ?? null)
        : region?.layerId === layerId
          ? (region?.histogram ?? null)
          : null,
  );
  const data = useMemo(
    () =>
      histogram
        ? Array.from(histogram.luminosity, (_, i) =>
            // The root shows small amounts beside large ones.
            Object.fromEntries(CHANNELS.map(([channel]) => [channel, Math.sqrt(histogram[channel][i]!)])),
          )
        : [],
    [histogram],
  );
  const light = useLight(of === 'masked' ? 'below' : of, 'luminosity', (share) => share);
  const mark = (share: number): string => (share >= MARKED ? percent(share) : '');
  const [dark, bright] = [mark(histogram?.clipped.low ?? 0), mark(histogram?.clipped.high ?? 0)];
  return (
    <div
      role="img"
      aria-label={`Tones of red, green, blue and luminosity${dark ? `; in ${dark} a channel is at its lower end` : ''}${bright ? `; in ${bright} a channel is at its upper end` : ''}`}
      style={{ marginTop: 6 }}
      {...light}
    >
      <ResponsiveContainer width="100%" height={48} initialDimension={{ width: 193, height: 48 }}>
        <AreaChart data={data} margin={{ top: 2, right: 0, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <YAxis hide domain={[0, 'dataMax']} />
          {CHANNELS.map(([channel, colour, fill]) => (
            <Area
              key={channel}
              dataKey={channel}
              stroke={colour}
              strokeWidth={1}
              fill={colour}
              fillOpacity={fill}
              isAnimationActive={false}
            />
          ))}
        </AreaChart>
      </ResponsiveContainer>
      <Ends>
        <span title="With a channel at its lower end">
          {dark && '◣ '}
          <Num>{dark}</Num>
        </span>
        <span title="With a channel at its upper end">
          <Num>{bright}</Num>
          {bright && ' ◢'}
        </span>
      </Ends>
    </div>
  );
}
