'use client';
import { isLossy, type FileFormat } from '@umbo/core/format';
import type { HandOverOptions, OutputSize } from '@umbo/data';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { NumberText } from '@/ui/controls/NumberText';
import { numberRange } from '@/ui/controls/numberRange';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Switch } from '@/ui/controls/Switch';
import { FORMATS, SPACES } from './options';

export type Options = Omit<HandOverOptions, 'fileName'>;

const Numbers = styled.span`
  display: flex;
  align-items: center;
  gap: 6px;
`;

const PIXELS = numberRange({ min: 1, max: 30_000, step: 1, unit: 'px' });
const PERCENT = numberRange({ min: 1, max: 100, step: 1, unit: '%' });
const KILOBYTES = numberRange({ min: 1, max: 1_000_000, step: 1, unit: 'kB' });

const SIZES = [
  ['full', 'As large as it is'],
  ['long', 'Longer side'],
  ['percent', 'Percent'],
  ['exact', 'Exactly, cut to fit'],
] as const;
const FIRST: Record<OutputSize['kind'], OutputSize> = {
  long: { kind: 'long', pixels: 2048 },
  percent: { kind: 'percent', percent: 50 },
  exact: { kind: 'exact', width: 1080, height: 1350 },
};
const SHARPENINGS = [
  ['off', 'Off'],
  ['screen', 'Screen'],
  ['print', 'Print'],
] as const;
const METADATA = [
  ['all', 'All'],
  ['rights', 'Rights only'],
  ['none', 'None'],
] as const;
const DEPTHS = [
  ['8', '8 bit'],
  ['16', '16 bit'],
] as const;

/** Without a setting: options that are left out are not there. */
function without(options: Options, key: 'atMost' | 'size' | 'sharpen'): Options {
  const { ...rest } = options;
  delete rest[key];
  return rest;
}

/** What files are made of: format, size, sharpening, profile, metadata. */
export function FileOptions(props: {
  options: Options;
  /** Bits of formats that can have more than 8, at first. */
  depth: 8 | 16;
  onChange: (options: Options) => void;
}) {
  const { options, depth, onChange } = props;
  const { format, bits, quality, atMost, size, sharpen = 'off', metadata = 'all', place = true } = options;
  const lossy = isLossy(format);
  const set = (values: Partial<Options>): void => onChange({ ...options, ...values });
  const setFormat = (next: FileFormat): void => {
    const now: Options = { ...options, format: next, bits: isLossy(next) ? 8 : lossy ? depth : bits };
    onChange(isLossy(next) ? now : without(now, 'atMost'));
  };
  return (
    <>
      <LabelledLine>
        Format <Choice label="Format" value={format} options={FORMATS} onChange={setFormat} />
      </LabelledLine>
      {!lossy && (
        <LabelledLine>
          Depth
          <Choice
            label="Depth"
            value={String(bits) as '8' | '16'}
            options={DEPTHS}
            onChange={(next) => set({ bits: next === '16' ? 16 : 8 })}
          />
        </LabelledLine>
      )}
      {lossy && (
        <>
          <div style={{ fontSize: 12, lineHeight: '16px' }}>
            <Slider
              label={atMost === undefined ? 'Quality' : 'Quality, at most'}
              value={quality}
              min={1}
              max={100}
              step={1}
              neutral={92}
              onPreview={(next) => set({ quality: Math.round(next) })}
              onCommit={(next) => set({ quality: Math.round(next) })}
            />
          </div>
          <LabelledLine>
            <span />
            <Numbers>
              <Switch
                value={atMost !== undefined}
                onChange={(on) => onChange(on ? { ...options, atMost: 500 } : without(options, 'atMost'))}
              >
                At most
              </Switch>
              {atMost !== undefined && (
                <NumberText
                  name="Kilobytes"
                  value={atMost}
                  range={KILOBYTES}
                  width={70}
                  onCommit={(next) => set({ atMost: Math.round(next) })}
                />
              )}
            </Numbers>
          </LabelledLine>
        </>
      )}
      <LabelledLine>
        Size
        <Numbers>
          {size?.kind === 'long' && (
            <NumberText
              name="Longer side"
              value={size.pixels}
              range={PIXELS}
              width={64}
              onCommit={(v) => set({ size: { ...size, pixels: Math.round(v) } })}
            />
          )}
          {size?.kind === 'percent' && (
            <NumberText
              name="Percent"
              value={size.percent}
              range={PERCENT}
              width={52}
              onCommit={(percent) => set({ size: { ...size, percent } })}
            />
          )}
          {size?.kind === 'exact' && (
            <>
              <NumberText
                name="Width"
                value={size.width}
                range={PIXELS}
                width={64}
                onCommit={(v) => set({ size: { ...size, width: Math.round(v) } })}
              />
              ×
              <NumberText
                name="Height"
                value={size.height}
                range={PIXELS}
                width={64}
                onCommit={(v) => set({ size: { ...size, height: Math.round(v) } })}
              />
            </>
          )}
          <Select
            label="Size"
            hideLabel
            value={size?.kind ?? 'full'}
            options={SIZES}
            onChange={(kind) => onChange(kind === 'full' ? without(options, 'size') : { ...options, size: FIRST[kind] })}
          />
        </Numbers>
      </LabelledLine>
      <LabelledLine>
        Sharpened for
        <Choice
          label="Sharpened for"
          value={sharpen}
          options={SHARPENINGS}
          onChange={(next) => onChange(next === 'off' ? without(options, 'sharpen') : { ...options, sharpen: next })}
        />
      </LabelledLine>
      <LabelledLine>
        Profile <Choice label="Profile" value={options.space} options={SPACES} onChange={(space) => set({ space })} />
      </LabelledLine>
      <LabelledLine>
        Metadata
        <Numbers>
          {metadata === 'all' && (
            <Switch value={place} onChange={(next) => set({ place: next })}>
              GPS
            </Switch>
          )}
          <Choice label="Metadata" value={metadata} options={METADATA} onChange={(next) => set({ metadata: next })} />
        </Numbers>
      </LabelledLine>
    </>
  );
}
