'use client';
import { fileFormats, type FileFormat } from '@umbo/core/format';
import type { HandOverOptions, OutputSize } from '@umbo/data';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { NumberText } from '@/ui/controls/NumberText';
import { numberRange } from '@/ui/controls/numberRange';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Switch } from '@/ui/controls/Switch';
import { INTENTS } from '@/profiles/intents';
import { useProfiles } from '@/profiles/useProfiles';
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
  ['off', 'As it is'],
  ['screen', 'For viewing'],
  ['print', 'For paper'],
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

/** What the values of profiles of the shoot begin with, beside our spaces. */
const OF_SHOOT = 'profile ';

/** Without a setting: options that are left out are not there. */
function without(options: Options, key: 'atMost' | 'size' | 'sharpen' | 'profile' | 'dither'): Options {
  const { ...rest } = options;
  delete rest[key];
  return rest;
}

/** What files are made of: format, size, sharpening, profile, metadata. */
export function FileOptions(props: {
  options: Options;
  /** Bits of formats that can have more than 8, at first. */
  depth: 8 | 16;
  /** Whose profiles files can be for. */
  shootId: number;
  onChange: (options: Options) => void;
}) {
  const { options, depth, shootId, onChange } = props;
  const { format, bits, sharpen = 'off', metadata = 'all', place = true } = options;
  const lossy = fileFormats[format].isLossy;
  const set = (values: Partial<Options>): void => onChange({ ...options, ...values });
  const setFormat = (next: FileFormat): void => {
    const { isLossy } = fileFormats[next];
    const now: Options = { ...options, format: next, bits: isLossy ? 8 : lossy ? depth : bits };
    onChange(isLossy ? now : without(now, 'atMost'));
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
      {lossy && <Quality options={options} onChange={onChange} />}
      <OutputSizeLine options={options} onChange={onChange} />
      <LabelledLine>
        Crispness
        <Choice
          label="Crispness"
          value={sharpen}
          options={SHARPENINGS}
          onChange={(next) => onChange(next === 'off' ? without(options, 'sharpen') : { ...options, sharpen: next })}
        />
      </LabelledLine>
      <ProfileLines options={options} shootId={shootId} onChange={onChange} />
      {bits === 8 && (
        <LabelledLine>
          <span />
          <Switch
            value={options.dither === true}
            onChange={(dither) => onChange(dither ? { ...options, dither } : without(options, 'dither'))}
          >
            Dithered, against steps in smooth places
          </Switch>
        </LabelledLine>
      )}
      <LabelledLine>
        Metadata
        <Numbers>
          {metadata === 'all' && (
            <Switch value={place} onChange={(next) => set({ place: next })}>
              Place
            </Switch>
          )}
          <Choice label="Metadata" value={metadata} options={METADATA} onChange={(next) => set({ metadata: next })} />
        </Numbers>
      </LabelledLine>
    </>
  );
}

interface Part {
  options: Options;
  onChange: (options: Options) => void;
}

/** How much is lost, and how large a file may be. */
function Quality({ options, onChange }: Part) {
  const { quality, atMost } = options;
  const set = (values: Partial<Options>): void => onChange({ ...options, ...values });
  return (
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
          <Switch value={atMost !== undefined} onChange={(on) => onChange(on ? { ...options, atMost: 500 } : without(options, 'atMost'))}>
            Limit the file size
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
  );
}

/** How large the picture of a file is. */
function OutputSizeLine({ options, onChange }: Part) {
  const { size } = options;
  const setSize = (next: OutputSize): void => onChange({ ...options, size: next });
  return (
    <LabelledLine>
      Size
      <Numbers>
        {size?.kind === 'long' && (
          <NumberText
            name="Longer side"
            value={size.pixels}
            range={PIXELS}
            width={64}
            onCommit={(v) => setSize({ ...size, pixels: Math.round(v) })}
          />
        )}
        {size?.kind === 'percent' && (
          <NumberText
            name="Percent"
            value={size.percent}
            range={PERCENT}
            width={52}
            onCommit={(percent) => setSize({ ...size, percent })}
          />
        )}
        {size?.kind === 'exact' && (
          <>
            <NumberText
              name="Width"
              value={size.width}
              range={PIXELS}
              width={64}
              onCommit={(v) => setSize({ ...size, width: Math.round(v) })}
            />
            ×
            <NumberText
              name="Height"
              value={size.height}
              range={PIXELS}
              width={64}
              onCommit={(v) => setSize({ ...size, height: Math.round(v) })}
            />
          </>
        )}
        <Select
          label="Size"
          hideLabel
          value={size?.kind ?? 'full'}
          options={SIZES}
          onChange={(kind) => (kind === 'full' ? onChange(without(options, 'size')) : setSize(FIRST[kind]))}
        />
      </Numbers>
    </LabelledLine>
  );
}

/** The colours of a file: one of our spaces, or a profile of the shoot and how its colours are reached. */
function ProfileLines({ options, shootId, onChange }: Part & { shootId: number }) {
  const profiles = useProfiles(shootId).list ?? [];
  const { format, profile } = options;
  const set = (values: Partial<Options>): void => onChange({ ...options, ...values });
  const setProfile = (next: string): void => {
    if (!next.startsWith(OF_SHOOT)) return onChange({ ...without(options, 'profile'), space: next as Options['space'] });
    const chosen = profiles.find(({ id }) => next === `${OF_SHOOT}${id}`)!;
    const held = { intent: 'relative', black: true, ...profile, id: chosen.id } as const;
    // Inks go into two formats only, with 8 bits.
    const ofInks = chosen.colours === 'cmyk' && { bits: 8 as const, ...(format !== 'jpeg' && { format: 'tiff' as const }) };
    onChange({ ...options, ...ofInks, profile: held });
  };
  return (
    <>
      <LabelledLine>
        Profile
        <Select
          label="Profile"
          hideLabel
          value={profile ? `${OF_SHOOT}${profile.id}` : options.space}
          options={[...SPACES, ...profiles.map(({ id, name }) => [`${OF_SHOOT}${id}`, name] as const)]}
          onChange={setProfile}
        />
      </LabelledLine>
      {profile && (
        <>
          <LabelledLine>
            Intent
            <Choice
              label="Rendering intent"
              value={profile.intent}
              options={INTENTS}
              onChange={(intent) => set({ profile: { ...profile, intent } })}
            />
          </LabelledLine>
          <LabelledLine>
            <span />
            <Switch value={profile.black} onChange={(black) => set({ profile: { ...profile, black } })}>
              Black becomes the darkest there is
            </Switch>
          </LabelledLine>
        </>
      )}
    </>
  );
}
