'use client';
import { clamp, unit } from '@umbo/core/base';
import { colourBetween, srgb, type Colour } from '@umbo/core/colour';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { useKept } from '@/ui/useKept';
import { useBench, useSpace } from '../state/context';
import { cssOf, hexOf } from '@/ui/hexOf';
import { colourPlanes, type ColourPlane, type Place3 } from './colourPlanes';
import { Swatch } from './Swatch';
import { usePalettes } from './usePalettes';

/** Pixels of the plane and of the axis beside it; drawn at this size, shown larger. */
const PLANE = { width: 132, height: 96 } as const;

const Box = styled(Dialog)`
  display: grid;
  gap: 8px;
  width: 292px;
  padding: 10px 12px 12px;
  font-size: 12px;
  line-height: 16px;
  outline: none;
`;
const Fields = styled.div`
  display: grid;
  grid-template-columns: 1fr 22px;
  gap: 8px;
  height: 176px;
  > div {
    position: relative;
    touch-action: none;
    border: 1px solid var(--edge);
    border-radius: 2px;
    overflow: hidden;
    cursor: crosshair;
  }
  canvas {
    display: block;
    width: 100%;
    height: 100%;
  }
  i {
    position: absolute;
    pointer-events: none;
    border: 1.5px solid #fff;
    box-shadow: 0 0 0 1px #000a;
  }
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  color: var(--ink2);
  b {
    display: flex;
    flex: 1;
    height: 22px;
    border: 1px solid var(--edge);
    border-radius: var(--radius);
    overflow: hidden;
  }
  b > button,
  b > span {
    flex: 1;
    border: 0;
    border-radius: 0;
    width: auto;
    height: 100%;
  }
`;
const Opener = styled(Swatch)`
  width: 26px;
  height: 26px;
`;

interface Props {
  /** What the colour is of. */
  label: string;
  colour: Colour;
  onPreview: (colour: Colour) => void;
  onCommit: (colour: Colour) => void;
  /** What its button is called; that it opens a field to choose by eye, when left out. */
  name?: string;
  /** What else can be done with the colour. */
  children?: ReactNode;
}

/** A colour as a swatch that opens a field to choose another one by eye. */
export function ColourPicker(props: Props) {
  const space = useSpace();
  return (
    <DialogTrigger>
      <Opener
        aria-label={props.name ?? `Choose the ${props.label.toLowerCase()} by eye`}
        style={{ background: cssOf(props.colour, space) }}
      />
      <Floating placement="bottom start">
        <Box aria-label={`${props.label}, by eye`}>
          <ByEye {...props} />
        </Box>
      </Floating>
    </DialogTrigger>
  );
}

function ByEye({ label, colour, onPreview, onCommit, children }: Props) {
  const [planeId, setPlaneId] = useKept<ColourPlane['id']>('colour-plane', 'oklch');
  const space = useSpace();
  const planes = colourPlanes[space.id];
  const plane = planes.find(({ id }) => id === planeId) ?? planes[0]!;
  const [before] = useState<Colour>([...colour]);
  const recent = useBench((state) => state.recentColours);
  const palettes = usePalettes(useBench((state) => state.shoot.id));
  // A grey has no hue: the place that led to a colour stands until another colour is there.
  const [held, setHeld] = useState<{ of: string; place: Place3 } | null>(null);
  const place = held?.of === `${planeId} ${colour.join()}` ? held.place : plane.read(colour);
  const go = (next: Place3, then: (colour: Colour) => void): void => {
    const wanted = next.map((v) => clamp(v, 0, 1)) as unknown as Place3;
    const made = plane.write(wanted);
    setHeld({ of: `${planeId} ${made.join()}`, place: wanted });
    then(made);
  };
  const swatches = (palettes.list ?? []).flatMap((palette) => palette.swatches).slice(0, 20);
  const offered = (name: string, colours: readonly { name: string; colour: Colour }[]) =>
    colours.length > 0 && (
      <Row role="group" aria-label={name}>
        {colours.map((one, i) => (
          <Swatch
            key={i}
            aria-label={one.name}
            style={{ background: cssOf(one.colour, space) }}
            onPress={() => onCommit([...one.colour])}
          />
        ))}
      </Row>
    );
  return (
    <>
      <Choice label="Laid out as" value={planeId} options={planes.map(({ id, name }) => [id, name] as const)} onChange={setPlaneId} />
      <Fields>
        <Field
          label={`${label}: ${plane.axes[0].toLowerCase()} and ${plane.axes[1].toLowerCase()}`}
          plane={plane}
          at={[place[0], place[1]]}
          colourAt={(x, y) => [x, y, place[2]]}
          drawnFor={place[2]}
          onMove={(x, y, done) => go([x, y, place[2]], done ? onCommit : onPreview)}
        />
        <Field
          label={`${label}: ${plane.axes[2].toLowerCase()}`}
          plane={plane}
          at={[null, place[2]]}
          colourAt={(_, y) => (plane.id === 'oklch' ? [0.36, 0.7, y] : [1, 1, y])}
          drawnFor={0}
          onMove={(_, y, done) => go([place[0], place[1], y], done ? onCommit : onPreview)}
        />
      </Fields>
      <Row>
        before
        <b>
          <Swatch
            aria-label={`Back to ${hexOf(before, space)}`}
            style={{ background: cssOf(before, space) }}
            onPress={() => onCommit([...before])}
          />
          <span style={{ background: cssOf(colour, space) }} />
        </b>
        now
      </Row>
      {offered(
        'Colours chosen last',
        recent.map((one) => ({ name: hexOf(one, space), colour: one })),
      )}
      {offered('Swatches of the shoot', swatches)}
      {children}
    </>
  );
}

interface FieldProps {
  label: string;
  plane: ColourPlane;
  /** Where the colour is; without a first number, only upwards. */
  at: readonly [number | null, number];
  colourAt: (x: number, y: number) => Place3;
  /** What the drawing depends on beside the plane. */
  drawnFor: number;
  onMove: (x: number, y: number, done: boolean) => void;
}

/** A plane, or an axis, of colours; what the working space does not have is hatched. Dragged, or moved by the arrow keys (Shift for big steps). */
function Field({ label, plane, at, colourAt, drawnFor, onMove }: FieldProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const flat = at[0] === null;
  const width = flat ? 1 : PLANE.width;
  const space = useSpace();
  useEffect(() => {
    const image = new ImageData(width, PLANE.height);
    const rgb = new Float64Array(3);
    for (let y = 0, o = 0; y < PLANE.height; y++)
      for (let x = 0; x < width; x++, o += 4) {
        const inside = plane.exact(colourAt(x / Math.max(1, width - 1), 1 - y / (PLANE.height - 1)), rgb);
        const shown = colourBetween(space, srgb, [rgb[0]!, rgb[1]!, rgb[2]!]);
        const hatch = (x + y) % 6 < 2 ? 118 : 134;
        for (let c = 0; c < 3; c++) image.data[o + c] = inside || flat ? unit(shown[c]!) * 255 : hatch;
        image.data[o + 3] = 255;
      }
    canvas.current!.getContext('2d')!.putImageData(image, 0, 0);
    // colourAt is a new function each time; what it draws depends on these alone.
  }, [plane, drawnFor, width, flat, space]);
  const placeOf = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [clamp((event.clientX - box.left) / box.width, 0, 1), clamp(1 - (event.clientY - box.top) / box.height, 0, 1)];
  };
  const held = useRef(false);
  const press = (event: KeyboardEvent): void => {
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key] ?? [0, 0];
    if (dx === 0 && dy === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 0.1 : 0.01;
    onMove((at[0] ?? 0) + dx! * step, at[1] + dy! * step, true);
  };
  return (
    <div
      role="group"
      tabIndex={0}
      aria-label={label}
      onKeyDown={press}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
        onMove(...placeOf(event), false);
      }}
      onPointerMove={(event) => held.current && onMove(...placeOf(event), false)}
      onPointerUp={(event) => {
        if (held.current) onMove(...placeOf(event), true);
        held.current = false;
      }}
      onPointerCancel={() => (held.current = false)}
    >
      <canvas ref={canvas} width={width} height={PLANE.height} aria-hidden />
      <i
        style={
          flat
            ? { left: -2, right: -2, height: 5, top: `calc(${(1 - at[1]) * 100}% - 2.5px)` }
            : {
                left: `calc(${at[0]! * 100}% - 6px)`,
                top: `calc(${(1 - at[1]) * 100}% - 6px)`,
                width: 12,
                height: 12,
                borderRadius: '50%',
              }
        }
      />
    </div>
  );
}
