'use client';
import { adjusted, adjustment, type AdjustmentContent } from '@umbo/core/adjust';
import type { AnySettings, ColourSpace, Control } from '@umbo/core/base';
import type { Colour, HueFamily } from '@umbo/core/colour';
import { isSource, sourceKind, type SourceContent } from '@umbo/core/content';
import { contentKind, onLayer, type Layer, type Recipe } from '@umbo/core/document';
import { MoveUpRight, RotateCcw } from 'lucide-react';
import { useMemo } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { sharesOf } from '../desk/families';
import { changeContent } from '../state/actions';
import { PlaceNumbers } from '../desk/PlaceNumbers';
import { Settings } from '../desk/Settings';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { contentEditor } from './contentEditors';

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 30px;
  margin-top: 4px;
`;

/** The settings of a layer's content: the sliders that its kind names, an editor of its own where it has one. */
export function ContentEditor({ layer, what }: { layer: Layer; what: AdjustmentContent | SourceContent }) {
  const store = useBenchStore();
  const space = useSpace();
  const kind = contentKind(what)!;
  const own = isSource(what) ? null : adjustment(what.kind);
  const defaults = isSource(what) ? sourceKind(what.kind).create(store.getState().photograph) : adjustment(what.kind).defaults;
  const change = (values: object): Recipe =>
    onLayer(layer.id, (draft) => changeContent(draft, space, (settings) => void Object.assign(settings, values)));
  const props = {
    layer,
    settings: what.settings,
    preview: (values: object) => store.getState().preview(change(values)),
    commit: (words: string, values: object) => void store.getState().commit(`${words} on ${layer.name}`, change(values)),
  };
  const shares = useShares(layer.id, kind.controls);
  const { Editor, showsSliders = false } = contentEditor(what.kind) ?? {};
  const isAtStart = JSON.stringify(what.settings) === JSON.stringify(defaults);
  const reset = (): void =>
    void store.getState().commit(
      `${layer.name} reset`,
      onLayer(layer.id, (draft) => void (draft.what.settings = structuredClone(defaults) as never)),
    );
  return (
    <>
      {!showsSliders && (
        <Settings
          {...props}
          defaults={defaults}
          schema={kind.schema}
          controls={kind.controls}
          {...(shares && { shares })}
          {...(own && { becomes: becomesOf(what as AdjustmentContent, space) })}
        />
      )}
      {Editor && <Editor {...props} />}
      <PlaceNumbers<AnySettings>
        settings={what.settings}
        numbers={kind.numbers?.(what.settings) ?? []}
        commit={(words, set) =>
          store.getState().commit(
            `${words} on ${layer.name}`,
            onLayer(layer.id, (draft) => set(draft.what.settings)),
          )
        }
      />
      {kind.pull && <Pulling />}
      {own && !isAtStart && (
        <Line style={{ justifyContent: 'flex-end' }}>
          <Button onPress={reset}>
            <RotateCcw size={13} strokeWidth={1.5} aria-hidden /> Reset all of it
          </Button>
        </Line>
      )}
      {kind.controls.length === 0 && !Editor && <p style={{ color: 'var(--ink2)' }}>There is nothing to set.</p>}
    </>
  );
}

/** What an adjustment with other settings makes of a colour. */
const becomesOf =
  ({ kind }: AdjustmentContent, space: ColourSpace) =>
  (settings: object, colour: Colour) =>
    adjusted({ kind, settings } as AdjustmentContent, colour, space);

/** How much of what the mask lets in belongs to the hue families that settings are for; undefined where there are none. */
function useShares(layerId: string, controls: readonly Control<AnySettings>[]): ReadonlyMap<string, number> | undefined {
  const region = useBench((state) => state.region);
  return useMemo(() => {
    const families = new Map(controls.flatMap(({ family }) => (family ? [[family.id, family as HueFamily]] : [])));
    return families.size > 0 ? sharesOf(region, layerId, [...families.values()]) : undefined;
  }, [region, layerId, controls]);
}

/** The tool that changes settings by dragging on the photograph. */
function Pulling() {
  const store = useBenchStore();
  const tool = useBench((state) => state.tool);
  return (
    <Line>
      <Button
        aria-pressed={tool === 'pull'}
        onPress={() => store.getState().set({ tool: tool === 'pull' ? 'move' : 'pull' })}
        $primary={tool === 'pull'}
      >
        <MoveUpRight size={14} strokeWidth={1.5} aria-hidden /> Pull on the photograph
      </Button>
    </Line>
  );
}
