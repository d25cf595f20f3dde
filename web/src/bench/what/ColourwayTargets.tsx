'use client';
import { unit } from '@umbo/core/base';
import { labToRgb, rgbToLab, type Colour, type Lab } from '@umbo/core/colour';
import { TOLERANCE, type Layer } from '@umbo/core/document';
import { useId, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Num } from '@/ui/controls/Num';
import { Select } from '@/ui/controls/Select';
import { TextInput } from '@/ui/controls/TextField';
import { cssOf } from '@/ui/hexOf';
import { labOfText } from '../colour/colourOfText';
import { usePalettes } from '../colour/usePalettes';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { readingsOf } from '../state/readings';
import { stopSolving } from '../state/solving';
import { bringToTargets, canBeAimed, colourwayAim, type BroughtTo } from '../state/targets';

const Body = styled.div`
  display: grid;
  gap: 12px;
  font-size: 12px;
  line-height: 16px;
  p {
    color: var(--ink2);
  }
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th {
    text-align: left;
    font-weight: 600;
    color: var(--ink2);
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    padding: 5px 12px 5px 0;
    border-bottom: 1px solid var(--line);
  }
  td:last-child {
    width: 210px;
  }
  i {
    display: inline-block;
    width: 28px;
    height: 16px;
    border: 1px solid var(--edge);
    vertical-align: middle;
  }
`;

const textOf = ({ l, a, b }: Lab): string => `lab(${[l, a, b].map((v) => Number(v.toFixed(1))).join(' ')})`;

/** The colours that alternatives are to have, typed or from the list that was loaded; each is solved for, with what was reached. */
export function ColourwayTargets({
  set,
  alternatives,
  isOpen,
  onClose,
}: {
  set: Layer;
  alternatives: readonly Layer[];
  isOpen: boolean;
  onClose: () => void;
}) {
  return (
    <Dialog title={`${set.name} to targets`} isOpen={isOpen} onClose={onClose} width={680}>
      {isOpen && <Targets set={set} alternatives={alternatives} onClose={onClose} />}
    </Dialog>
  );
}

function Targets({ set, alternatives, onClose }: { set: Layer; alternatives: readonly Layer[]; onClose: () => void }) {
  const store = useBenchStore();
  const space = useSpace();
  const readings = useBench(readingsOf);
  const list = useBench((state) => state.colourList);
  const solving = useBench((state) => state.solving);
  const shootId = useBench((state) => state.shoot.id);
  const swatches = (usePalettes(shootId).list ?? []).flatMap((palette) => palette.swatches);
  const offered = [...list, ...swatches.map(({ name, colour }) => ({ name, lab: rgbToLab(space, ...colour) }))];
  const offers = useId();
  const aims = alternatives.map(colourwayAim);
  const [reading, setReading] = useState(aims.find((aim) => aim !== null)?.reading ?? readings[0]?.id ?? '');
  const [typed, setTyped] = useState<ReadonlyMap<string, string>>(
    () =>
      new Map(
        alternatives.map(({ id, name }, i) => {
          const listed = list.find((one) => one.name.toLowerCase() === name.toLowerCase());
          const lab = aims[i]?.lab ?? listed?.lab;
          return [id, lab ? textOf(lab) : ''];
        }),
      ),
  );
  const [outcome, setOutcome] = useState<BroughtTo | null>(null);
  const of = readings.find(({ id }) => id === reading);
  const tolerance = of?.tolerance ?? TOLERANCE;
  const wanted = new Map(
    alternatives.flatMap((layer) => {
      const lab = canBeAimed(layer) ? labOfText(typed.get(layer.id) ?? '') : null;
      return lab ? [[layer.id, lab] as const] : [];
    }),
  );
  const bring = async (): Promise<void> => {
    setOutcome(null);
    setOutcome(await bringToTargets(store.getState, set, reading, wanted));
  };
  if (readings.length === 0)
    return (
      <Body>
        <p>There is no reading that could be brought to a colour: pin one on the product, or read its region (in the list of regions).</p>
        <DialogActions>
          <Button onPress={onClose}>Close</Button>
        </DialogActions>
      </Body>
    );
  return (
    <>
      <Body>
        <Select
          label="Measured at"
          value={reading}
          options={readings.map(({ id, letter, name }) => [id, `${letter}, ${name}`] as const)}
          onChange={setReading}
        />
        <datalist id={offers}>
          {offered.map(({ name, lab }, i) => (
            <option key={i} value={textOf(lab)} label={name} />
          ))}
        </datalist>
        <table>
          <thead>
            <tr>
              <th>Alternative</th>
              <th>Target</th>
              <th aria-label="Its colour" />
              <th>Reached</th>
            </tr>
          </thead>
          <tbody>
            {alternatives.map((layer) => (
              <TargetRow
                key={layer.id}
                layer={layer}
                text={typed.get(layer.id) ?? ''}
                offers={offers}
                onType={(text) => {
                  setTyped((before) => new Map(before).set(layer.id, text));
                  setOutcome(null);
                }}
                outcome={outcome?.get(layer.id)}
                tolerance={tolerance}
              />
            ))}
          </tbody>
        </table>
        <p role="status">
          {solving ??
            `Each is solved for as if it showed; passed is what comes within ΔE00 ${tolerance}. Carried to other photographs, each is solved there anew.`}
        </p>
      </Body>
      <DialogActions>
        {solving !== null && <Button onPress={() => stopSolving(store.getState())}>Stop</Button>}
        <Button onPress={onClose}>Close</Button>
        <Button $primary isDisabled={solving !== null || wanted.size === 0 || !of} onPress={() => void bring()}>
          Bring {wanted.size === alternatives.length ? 'all' : wanted.size} to target
        </Button>
      </DialogActions>
    </>
  );
}

type Outcome = NonNullable<ReturnType<BroughtTo['get']>> | undefined;

interface TargetRowProps {
  layer: Layer;
  /** What was typed. */
  text: string;
  /** Of the list of colours that are offered. */
  offers: string;
  onType: (text: string) => void;
  outcome: Outcome;
  tolerance: number;
}

/** An alternative, the colour that it is to have, and what was reached. */
function TargetRow({ layer, text, offers, onType, outcome, tolerance }: TargetRowProps) {
  const space = useSpace();
  const lab = labOfText(text);
  const isWrong = lab === null && text.trim() !== '';
  return (
    <tr>
      <td>{layer.name}</td>
      <td>
        {canBeAimed(layer) ? (
          <TextInput
            aria-label={`Target of ${layer.name}`}
            list={offers}
            aria-invalid={isWrong}
            placeholder="#c08060, lab(60 20 15)"
            value={text}
            onChange={({ target }) => onType(target.value)}
          />
        ) : (
          'It has no settings that could be solved for.'
        )}
      </td>
      <td>{lab && <i style={{ background: cssOf(labToRgb(space, lab).map(unit) as Colour, space) }} aria-hidden />}</td>
      <td>{isWrong ? 'No colour' : <Reached outcome={outcome} tolerance={tolerance} />}</td>
    </tr>
  );
}

function Reached({ outcome, tolerance }: { outcome: Outcome; tolerance: number }) {
  if (outcome === undefined) return null;
  if (typeof outcome === 'string') return outcome;
  return (
    <Num>
      ΔE00 {outcome.before.toFixed(1)} → {outcome.after.toFixed(1)} {outcome.after <= tolerance ? 'passed' : 'out of reach'}
    </Num>
  );
}
