'use client';
import type { UmboDocument } from '@umbo/core/document';
import styled from 'styled-components';
import { Switch } from '@/ui/controls/Switch';

const Layers = styled.div`
  display: grid;
  gap: 6px;
  max-height: 132px;
  overflow: auto;
  padding: 2px 2px 2px 29px;
`;
/** What goes along beside layers. */
export interface Also {
  regions: boolean;
  readings: boolean;
  geometry: boolean;
}

interface Props {
  document: UmboDocument | null;
  /** The layers that stay. */
  left: ReadonlySet<string>;
  onLeft: (left: ReadonlySet<string>) => void;
  also: Also;
  onAlso: (also: Also) => void;
}

/** What of an edit goes along. */
export function CarriedChoice({ document, left, onLeft, also, onAlso }: Props) {
  const layers = document?.layers ?? [];
  const readings = document?.readings?.length ?? 0;
  const regions = document?.regions?.length ?? 0;
  return (
    <>
      <Switch
        value={layers.length > 0 && left.size === 0}
        isDisabled={layers.length === 0}
        onChange={(all) => onLeft(new Set(all ? [] : layers.map(({ id }) => id)))}
      >
        {layers.length === 0 ? 'No layers here' : `All layers (${layers.length})`}
      </Switch>
      {layers.length > 0 && (
        <Layers role="group" aria-label="Layers">
          {layers.map(({ id, name }) => (
            <Switch
              key={id}
              value={!left.has(id)}
              onChange={(on) => onLeft(new Set(on ? [...left].filter((one) => one !== id) : [...left, id]))}
            >
              {name}
            </Switch>
          ))}
        </Layers>
      )}
      <Switch value={also.regions} isDisabled={regions === 0} onChange={(on) => onAlso({ ...also, regions: on })}>
        Regions that no layer uses as well{regions > 0 && ` (${regions} in all)`}
      </Switch>
      <Switch value={also.readings} isDisabled={readings === 0} onChange={(on) => onAlso({ ...also, readings: on })}>
        Readings{readings > 0 && ` (${readings})`}
      </Switch>
      <Switch value={also.geometry} onChange={(on) => onAlso({ ...also, geometry: on })}>
        Crop{document?.geometry ? '' : ' (this one has none: removes theirs)'}
      </Switch>
    </>
  );
}
