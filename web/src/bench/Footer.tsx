'use client';
import { AlertTriangle, Check, LoaderCircle, X } from 'lucide-react';
import { pictureFraming, pictureSizeOf } from '@umbo/core/document';
import { useEffect } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Num } from '@/ui/controls/Num';
import { useKept } from '@/ui/useKept';
import { Notes } from './Warnings';
import { useBench, useBenchStore } from './state/context';
import { Proof } from './Proof';
import { SetAside } from './SetAside';
import { WorkingSpace } from './WorkingSpace';

const Bar = styled.footer`
  height: 30px;
  flex: none;
  border-top: 1px solid var(--line);
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 10px 0 14px;
  color: var(--ink2);
  white-space: nowrap;
  .status {
    display: flex;
    align-items: center;
    gap: 5px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  button {
    min-height: 22px;
    padding-top: 0;
    padding-bottom: 0;
  }
`;
const Quiet = styled.span`
  @keyframes appear {
    from {
      opacity: 0;
    }
  }
  animation: appear 1ms 150ms backwards;
`;
const Space = styled.span`
  flex: 1;
`;

/** Greys of the stage: dark, the middle grey of viewing standards (about L* 50), and nearly white. */
const SURROUNDS = { '38': 'Dark', '117': 'Mid', '242': 'White' } as const;

/** Until another is chosen, panels are as the system's windows. */
const systemChrome = (): 'light' | 'dark' =>
  typeof matchMedia === 'function' && matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';

/** Zoom, whether everything is kept, and how the room looks. */
export function Footer() {
  const store = useBenchStore();
  const zoom = useBench((state) => state.view.zoom);
  const photograph = useBench((state) => state.photograph);
  const cut = useBench(({ committed }) => pictureSizeOf(committed));
  const isCut = useBench(({ committed }) => pictureFraming(committed) !== undefined);
  const [surround, setSurround] = useKept<keyof typeof SURROUNDS>('surround', '117');
  const [chrome, setChrome] = useKept<'light' | 'dark'>('chrome', systemChrome());
  useEffect(() => {
    store.getState().setSurround(Number(surround));
    document.documentElement.style.setProperty('--stage', `rgb(${surround} ${surround} ${surround})`);
  }, [store, surround]);
  useEffect(() => {
    document.documentElement.dataset.chrome = chrome;
  }, [chrome]);
  return (
    <Bar>
      <Num style={{ minWidth: 46 }}>{zoom >= 0.1 ? Math.round(zoom * 100) : (zoom * 100).toFixed(1)} %</Num>
      <Num>
        {isCut && `${cut.width} × ${cut.height} of `}
        {photograph.width} × {photograph.height} · {photograph.bits} bit
      </Num>
      <WorkingSpace />
      <Proof />
      <Busy />
      <Space />
      <Clipped />
      <Notes />
      <SetAside />
      <Status />
      <MenuTrigger>
        <Button aria-label="Surround and panels">{SURROUNDS[surround]} surround</Button>
        <Floating placement="top end">
          <Menu aria-label="Surround and panels">
            <MenuSection title="Around the photograph">
              {(Object.keys(SURROUNDS) as (keyof typeof SURROUNDS)[]).map((grey) => (
                <MenuItem key={grey} onAction={() => setSurround(grey)}>
                  {SURROUNDS[grey]}
                </MenuItem>
              ))}
            </MenuSection>
            <MenuSection title="Panels">
              {(['light', 'dark'] as const).map((one) => (
                <MenuItem key={one} onAction={() => setChrome(one)}>
                  {one === 'light' ? 'Light panels' : 'Dark panels'}
                </MenuItem>
              ))}
            </MenuSection>
          </Menu>
        </Floating>
      </MenuTrigger>
    </Bar>
  );
}

/** Says that clipped pixels are marked, as long as they are. */
function Clipped() {
  const store = useBenchStore();
  const clipped = useBench((state) => state.look.clipped);
  return (
    clipped && (
      <Button onPress={() => store.getState().setLook({ clipped: false })} aria-label="Newly clipped pixels are marked: stop">
        Striped: newly clipped <X size={12} strokeWidth={1.75} aria-hidden />
      </Button>
    )
  );
}

/** Says quietly that the stage is behind, or that something is being found. */
function Busy() {
  const words = useBench(({ measuring, rendering }) => (measuring > 0 ? 'Measuring…' : rendering ? 'Rendering…' : null));
  return words && <Quiet role="status">{words}</Quiet>;
}

function Status() {
  const status = useBench((state) => state.status);
  const text =
    status.state === 'kept'
      ? 'All changes kept'
      : status.state === 'keeping'
        ? 'Keeping…'
        : `Not kept${status.state === 'waiting' ? ' yet' : ''}: ${status.reason}`;
  const Icon = status.state === 'kept' ? Check : status.state === 'keeping' ? LoaderCircle : AlertTriangle;
  return (
    <span className="status" role="status" title={text} data-testid="keep-status">
      <Icon size={13} strokeWidth={1.75} aria-hidden /> {text}
    </span>
  );
}
